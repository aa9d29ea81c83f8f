using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using System.Text;
using System.Threading;
using GoldenRule.Server.HouseStyles;
using GoldenRule.Server.Pictures;
using Microsoft.Extensions.DependencyInjection;

namespace GoldenRule.Server.Tests;

/// <summary>
/// Picture files that were made to read, reach, stop or slow the server: tests/hostile/svg and what is too large to keep there.
/// </summary>
public sealed class HostilePictureTests(Running server) : IClassFixture<Running>
{
    [Fact]
    public async Task Nothing_is_fetched_and_nothing_of_the_server_is_read()
    {
        using var listener = new Listener();
        var author = await server.As("imran");
        var files = Directory
            .GetFiles(Path.Combine(AppContext.BaseDirectory, "hostile", "svg"), "*.svg")
            .ToDictionary(f => Path.GetFileName(f), f => Bytes(f, listener), StringComparer.Ordinal);
        Assert.True(files.Count > 30);
        await Task.WhenAll(
            files.Select(async file =>
            {
                using var upload = ReachingTests.Upload(file.Value, file.Key);
                var answer = await author.PostAsync("/api/pictures", upload);
                Assert.True(
                    answer.IsSuccessStatusCode || answer.StatusCode == HttpStatusCode.UnprocessableEntity,
                    $"{file.Key}: {answer.StatusCode} {await answer.Content.ReadAsStringAsync()}"
                );
            })
        );
        Assert.Equal(0, listener.Heard);
    }

    /// <summary>A reviewer may count the colours of a file: what is drawn of it is all there is to count.</summary>
    [Theory]
    [InlineData("set-file.svg")]
    [InlineData("use-file.svg")]
    [InlineData("mask-outside.svg")]
    public async Task The_palette_tells_nothing_of_other_files(string name)
    {
        using var listener = new Listener();
        var reviewer = await server.As("jonas");
        var style = (await (await reviewer.GetAsync("/api/house-styles")).Read<List<HouseStyleEntry>>())[0].Id;
        using var upload = ReachingTests.Upload(Bytes(Path.Combine(AppContext.BaseDirectory, "hostile", "svg", name), listener), name);
        var palette = await (await reviewer.PostAsync($"/api/house-styles/{style}/palette", upload)).Read<List<PaletteEntry>>();
        Assert.All(palette, entry => Assert.Contains(entry.Colour.ToLowerInvariant(), (string[])["#123456", "#000000"]));
        Assert.Equal(0, listener.Heard);
    }

    private static byte[] Bytes(string path, Listener listener) =>
        Encoding.UTF8.GetBytes(File.ReadAllText(path).Replace("{listener}", listener.Address, StringComparison.Ordinal));

    public static TheoryData<string, string> Bombs() =>
        new()
        {
            { "deep", Svg(string.Concat(Enumerable.Repeat("<g>", 20_000)) + string.Concat(Enumerable.Repeat("</g>", 20_000))) },
            {
                "deep in what is left out",
                Svg(
                    "<metadata>"
                        + string.Concat(Enumerable.Repeat("<a>", 20_000))
                        + string.Concat(Enumerable.Repeat("</a>", 20_000))
                        + "</metadata>"
                )
            },
            { "many", Svg(string.Concat(Enumerable.Repeat("<g/>", 60_000))) },
            {
                "uses in a chain",
                Svg(string.Concat(Enumerable.Range(1, 5_000).Select(i => $"<g id=\"a{i}\"><use href=\"#a{i - 1}\"/></g>")))
            },
            { "slow to draw", Slow() },
            {
                "tall",
                "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 1 100000000\"><rect width=\"1\" height=\"100000000\"/></svg>"
            },
            { "broken in the middle", Svg("<g><rect") },
        };

    [Theory]
    [MemberData(nameof(Bombs))]
    public async Task What_is_too_much_is_refused_with_a_reason(string name, string svg)
    {
        var author = await server.As("imran");
        using var upload = ReachingTests.Upload(Encoding.UTF8.GetBytes(svg), "bomb.svg");
        var problem = await (await author.PostAsync("/api/pictures", upload)).Problem(422, "picture");
        Assert.True(((string?)problem["detail"])!.Length > 20, name);
        // The server is there as before.
        Assert.True((await server.CreateClient().GetAsync("/health/ready")).IsSuccessStatusCode);
    }

    /// <summary>
    /// Whatever is done to the bytes of a picture, it is taken or refused with a reason, and the next is drawn as before.
    /// </summary>
    [Fact]
    public async Task Broken_picture_files_are_taken_or_refused()
    {
        // Each is drawn in a process of its own.
        const int Files = 24;
        var random = new Random(20261129);
        var author = await server.As("imran");
        var sound = server.Query(db => db.PictureFiles.OrderBy(f => f.Content.Length).Select(f => f.Content).Take(3).ToList());
        var refused = 0;
        await Parallel.ForEachAsync(
            Enumerable.Range(0, Files).Select(Broken).ToList(),
            new ParallelOptions { MaxDegreeOfParallelism = 3 },
            async (bytes, _) =>
            {
                using var upload = ReachingTests.Upload(bytes, "broken.png");
                var answer = await author.PostAsync("/api/pictures", upload, CancellationToken.None);
                if (!answer.IsSuccessStatusCode)
                {
                    Assert.True(((string?)(await answer.Problem(422, "picture"))["detail"])!.Length > 20);
                    Interlocked.Increment(ref refused);
                }
            }
        );

        Assert.True(refused > 4, $"{refused} of {Files} were refused.");
        using var whole = ReachingTests.Upload(sound[0], "whole.png");
        Assert.True((await author.PostAsync("/api/pictures", whole)).IsSuccessStatusCode);

        byte[] Broken(int i)
        {
            var bytes = sound[i % sound.Count].ToArray();
            for (var changes = random.Next(1, 12); changes > 0; changes--)
            {
                bytes[random.Next(bytes.Length)] = (byte)random.Next(256);
            }

            return random.Next(3) == 0 ? bytes[..random.Next(1, bytes.Length)] : bytes;
        }
    }

    /// <summary>GIF89a, made by hand: frames of one pixel without end.</summary>
    [Fact]
    public async Task An_animation_of_thousands_of_frames_is_refused()
    {
        byte[] frame = [0x21, 0xf9, 4, 0, 1, 0, 0, 0, 0x2c, 0, 0, 0, 0, 1, 0, 1, 0, 0, 2, 2, 0x44, 1, 0];
        byte[] head = [.. "GIF89a"u8, 1, 0, 1, 0, 0x80, 0, 0, 0, 0, 0, 255, 255, 255];
        byte[] gif = [.. head, .. Enumerable.Repeat(frame, 5_000).SelectMany(f => f), 0x3b];
        using var upload = ReachingTests.Upload(gif, "endless.gif");
        var problem = await (await (await server.As("imran")).PostAsync("/api/pictures", upload)).Problem(422, "picture");
        Assert.Contains("frames", (string?)problem["detail"], StringComparison.Ordinal);
    }

    [Fact]
    public async Task Slow_files_do_not_make_another_wait()
    {
        var author = await server.As("imran");
        var slow = Enumerable.Range(0, 3).Select(_ => Send(Slow(), "slow.svg")).ToList();
        var other = await Send(Svg("<rect width=\"9\" height=\"9\"/>"), "other.svg");
        Assert.Equal(HttpStatusCode.OK, other.StatusCode);
        // On a busy machine one may be given up meanwhile; had it waited for its turn, all would be.
        Assert.Contains(slow, s => !s.IsCompleted);
        Assert.All(await Task.WhenAll(slow), s => Assert.Equal(HttpStatusCode.UnprocessableEntity, s.StatusCode));

        async Task<HttpResponseMessage> Send(string svg, string name)
        {
            using var upload = ReachingTests.Upload(Encoding.UTF8.GetBytes(svg), name);
            return await author.PostAsync("/api/pictures", upload);
        }
    }

    [Fact]
    public async Task The_worker_has_neither_the_servers_files_nor_a_network_or_the_log_says_why()
    {
        var confinement = server.Services.GetRequiredService<WorkerConfinement>();
        if (confinement.Open is { } why)
        {
            Assert.NotEmpty(why);
            return;
        }

        Assert.DoesNotContain("root:", await Output("/usr/bin/cat", "/etc/passwd"), StringComparison.Ordinal);
        // Of the server's folder only what the worker itself is made of.
        var seen = await Output("/usr/bin/find", "/", "-name", "appsettings*.json", "-o", "-name", "GoldenRule.*.dll");
        Assert.Equal(
            ["GoldenRule.PictureWorker.dll"],
            seen.Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(f => Path.GetFileName(f))
        );
        // The loopback of its own alone.
        Assert.Equal(
            1,
            (await Output("/usr/bin/cat", "/proc/net/dev")).Split('\n').Count(line => line.Contains(':', StringComparison.Ordinal))
        );

        async Task<string> Output(params string[] program)
        {
            using var process = Process.Start(confinement.Confined(program))!;
            var said = await process.StandardOutput.ReadToEndAsync();
            await process.WaitForExitAsync();
            return said;
        }
    }

    private static string Svg(string content) => $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 10 10\">{content}</svg>";

    // Each covers everything and lets what is under it through.
    private static string Slow() =>
        Svg(string.Concat(Enumerable.Repeat("<circle cx=\"5\" cy=\"5\" r=\"9\" fill-opacity=\"0.01\"/>", 19_000)));

    /// <summary>A server on loopback that counts who comes.</summary>
    private sealed class Listener : IDisposable
    {
        private readonly TcpListener _listener = new(IPAddress.Loopback, 0);

        public Listener()
        {
            _listener.Start();
            Address = $"http://127.0.0.1:{((IPEndPoint)_listener.LocalEndpoint).Port}";
        }

        public string Address { get; }

        // Nobody is answered: whoever came waits to be taken.
        public int Heard => _listener.Pending() ? 1 : 0;

        public void Dispose() => _listener.Dispose();
    }
}

using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.HouseStyles;
using GoldenRule.Server.Pictures;
using Npgsql;
using SkiaSharp;

namespace GoldenRule.Server.Tests;

/// <summary>Releases, what the database itself protects, pictures and lists.</summary>
public sealed class LibraryTests(Running server) : IClassFixture<Running>
{
    [Theory]
    [InlineData("update releases set note = 'x'")]
    [InlineData("delete from releases")]
    [InlineData("truncate releases")]
    [InlineData("update edits set author_id = gen_random_uuid()")]
    [InlineData("delete from edits")]
    [InlineData("update documents set origin = '{}'")]
    public async Task The_database_itself_refuses_to_rewrite_history(string sql)
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        (await author.Edit(desk.Id, 0, Asking.SetWords("hero", "headline", "Said"))).EnsureSuccessStatusCode();
        var refused = Assert.Throws<PostgresException>(() => server.Sql(sql));
        Assert.Contains("append-only", refused.MessageText, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_released_colour_is_in_the_next_proof_and_a_stale_release_is_refused()
    {
        var (lead, author) = (await server.As("ruth"), await server.As("imran"));
        var desk = await server.NewEmail(author);
        var house = await Running.House(lead);
        var red = house.Variables.Single(v => v.Variable.Key == "buffer-red").Variable;
        var edited = await (await lead.PostAsJsonAsync($"/api/house-styles/{house.Id}/edits", new { @base = house.Revision, edits = new[] { new { id = Guid.CreateVersion7(), step = Guid.CreateVersion7(), edit = new { kind = "set-variable", variable = red with { Value = "#d99a6c" } } } } }, DocumentJson.Options)).Read<HouseStyleAnswer>();
        Assert.Equal(1, edited.Changes);
        Assert.Contains(edited.Contrast, c => !c.Passes && c.Background == "Primary button" && Math.Abs(c.Ratio - 1.98) < 0.001);
        // A draft changes no email.
        Assert.DoesNotContain("#d99a6c", (await Running.Desk(author, desk.Id)).Rows.Single(r => r.Id == "hero").Html, StringComparison.Ordinal);

        var reach = (await lead.GetFromJsonAsync<ReachAnswer>($"/api/house-styles/{house.Id}/reach", DocumentJson.Options))!;
        Assert.Equal(1, reach.Frozen);
        Assert.True(reach.Stopped >= 5);

        await (await Release(lead, house.Id, house.Revision, "Stale")).Problem(412, "changed-since");
        Assert.Equal(2, (await (await Release(lead, house.Id, edited.Revision, "A lighter red")).Read<ReleaseAnswer>()).Release);
        var answer = await author.PostAsJsonAsync($"/api/emails/{desk.Id}/edits", new { @base = 0, styleVersion = desk.StyleVersion, edits = new[] { new { id = Guid.CreateVersion7(), step = Guid.CreateVersion7(), edit = new { kind = "set-detail", field = "subject", value = "x" } } } });
        var next = await answer.Read<Emails.DeskAnswer>();
        Assert.True(next.Whole);
        Assert.Contains("#d99a6c", next.Rows.Single(r => r.Id == "hero").Html, StringComparison.Ordinal);
        Assert.Contains(next.Findings!.Value, f => f.Check == "contrast" && f.Evidence!.StartsWith("1.98", StringComparison.Ordinal));

        // What cannot be resolved is refused before it is stored.
        await (await lead.PostAsJsonAsync($"/api/house-styles/{house.Id}/edits", new { @base = edited.Revision, edits = new[] { new { id = Guid.CreateVersion7(), step = Guid.CreateVersion7(), edit = new { kind = "set-variable", variable = red with { Value = "{accent}" } } } } }, DocumentJson.Options)).Problem(422, "invalid");
    }

    [Fact]
    public async Task Pictures_are_judged_by_content_stripped_made_small_and_kept_once()
    {
        var author = await server.As("imran");
        var photo = Jpeg(2000, 1000);
        var marked = WithComment(photo, "secret place");
        Assert.Contains("secret place", Encoding.Latin1.GetString(marked), StringComparison.Ordinal);
        var added = await Add(author, marked, "photo.gif");
        Assert.Equal((1280, 640), (added.Width, added.Height));
        Assert.EndsWith(".jpg", added.Address, StringComparison.Ordinal);
        Assert.Equal(added.Id, (await Add(author, photo, "again.jpg")).Id);
        Assert.Equal(1, server.Query(db => db.Pictures.Count(p => p.Id == added.Id)));

        // Mail clients fetch it without signing in.
        var file = await server.CreateClient().GetAsync(added.Address);
        Assert.Equal("image/jpeg", file.Content.Headers.ContentType?.MediaType);
        Assert.DoesNotContain("secret place", Encoding.Latin1.GetString(await file.Content.ReadAsByteArrayAsync()), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await server.CreateClient().GetAsync($"/pictures/{added.Id}.png")).StatusCode);
    }

    [Theory]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'/>", "shows nothing")]
    [InlineData("<html><script>alert(1)</script>", "is a web page")]
    [InlineData("%PDF-1.7", "is a PDF")]
    [InlineData("neither one thing", "is no picture")]
    [InlineData("", "empty")]
    public async Task A_disguised_file_is_refused_with_its_reason(string content, string said)
    {
        var author = await server.As("imran");
        using var file = ReachingTests.Upload(Encoding.UTF8.GetBytes(content), "harmless.png");
        var problem = await (await author.PostAsync("/api/pictures", file)).Problem(422, "picture");
        Assert.Contains(said, (string?)problem["detail"], StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_picture_that_is_too_heavy_or_would_burst_is_refused()
    {
        var author = await server.As("imran");
        using var heavy = ReachingTests.Upload(new byte[(5 * 1024 * 1024) + 1], "heavy.png");
        await (await author.PostAsync("/api/pictures", heavy)).Problem(422, "picture");
        using var burst = ReachingTests.Upload(BombHeader(60_000, 60_000), "burst.png");
        Assert.Contains("pixels", (string?)(await (await author.PostAsync("/api/pictures", burst)).Problem(422, "picture"))["detail"], StringComparison.Ordinal);
    }

    [Fact]
    public async Task Lists_are_paged_by_key_without_gaps_or_repeats()
    {
        var author = await server.As("imran");
        for (var i = 0; i < 50; i++)
        {
            await server.NewEmail(author);
        }

        var (seen, after) = (new List<string>(), "");
        do
        {
            var page = (await author.GetFromJsonAsync<JsonObject>($"/api/emails?{after}"))!;
            seen.AddRange(page["emails"]!.AsArray().Select(e => (string)e!["id"]!));
            after = page["next"] is { } next ? $"after={next}" : null;
        }
        while (after is not null);
        Assert.Equal(server.Query(db => db.Documents.Count(d => d.Kind == DocumentKind.Email)), seen.Count);
        Assert.Equal(seen.Count, seen.Distinct(StringComparer.Ordinal).Count());
    }

    private static async Task<HttpResponseMessage> Release(HttpClient client, Guid id, long seen, string note)
    {
        var request = new HttpRequestMessage(HttpMethod.Post, $"/api/house-styles/{id}/releases") { Content = JsonContent.Create(new { note }) };
        request.Headers.IfMatch.ParseAdd($"\"{seen}\"");
        return await client.SendAsync(request);
    }

    private static async Task<PictureEntry> Add(HttpClient client, byte[] bytes, string name)
    {
        using var file = ReachingTests.Upload(bytes, name);
        return await (await client.PostAsync("/api/pictures", file)).Read<PictureEntry>();
    }

    private static byte[] Jpeg(int width, int height)
    {
        using var bitmap = new SKBitmap(width, height);
        bitmap.Erase(SKColors.SeaGreen);
        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, 80);
        return data.ToArray();
    }

    // A COM segment right after the start of image (ITU T.81, B.2.4.5).
    private static byte[] WithComment(byte[] jpeg, string comment)
    {
        var text = Encoding.ASCII.GetBytes(comment);
        return [.. jpeg[..2], 0xff, 0xfe, (byte)((text.Length + 2) >> 8), (byte)(text.Length + 2), .. text, .. jpeg[2..]];
    }

    // The signature and header of a PNG of the given size (ISO/IEC 15948, 11.2.2), and nothing after it.
    private static byte[] BombHeader(int width, int height)
    {
        byte[] header = [.. "IHDR"u8, .. BigEndian(width), .. BigEndian(height), 8, 2, 0, 0, 0];
        return [0x89, .. "PNG\r\n\u001a\n"u8, .. BigEndian(13), .. header, .. BigEndian(unchecked((int)Crc(header))), .. BigEndian(0), .. "IDAT"u8, .. BigEndian(0x35af061e)];
    }

    // CRC-32 as ISO/IEC 15948, annex D, computes it.
    private static uint Crc(byte[] bytes)
    {
        var crc = uint.MaxValue;
        foreach (var b in bytes)
        {
            crc ^= b;
            for (var i = 0; i < 8; i++)
            {
                crc = (crc & 1) == 1 ? 0xedb88320 ^ (crc >> 1) : crc >> 1;
            }
        }

        return ~crc;
    }

    private static byte[] BigEndian(int value) => [(byte)(value >> 24), (byte)(value >> 16), (byte)(value >> 8), (byte)value];
}

using System.Diagnostics;
using GoldenRule.Server.Jobs;

namespace GoldenRule.Server.Hosting;

/// <summary>
/// Prints or draws a page by headless Chromium from Debian's packages: without a network, in its own sandbox, and as a user
/// that may do nothing else where the server runs as root. Where no sandbox can be had, the log says why.
/// </summary>
public sealed class HeadlessChromium(IConfiguration configuration, ILogger<HeadlessChromium> log)
{
    private const string AsNobody = "/usr/bin/setpriv";
    private const string Nobody = "65534";

    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(90);

    /// <summary>Why Chromium's own sandbox does not start here. Null: it does, or nothing was opened yet.</summary>
    public string? Open { get; private set; }

    /// <summary>The page as a PDF.</summary>
    /// <param name="files">What the page shows, by its relative address.</param>
    /// <exception cref="WorkException">Chromium is missing, or did not print.</exception>
    public Task<byte[]> PrintAsync(string page, IEnumerable<(string Path, byte[] Content)> files, CancellationToken cancel) =>
        MakeAsync(page, files, "page.pdf", made => ["--no-pdf-header-footer", $"--print-to-pdf={made}"], cancel);

    /// <summary>The page as a PNG of that size in pixels; where it paints nothing, the picture is transparent.</summary>
    /// <param name="files">What the page shows, by its relative address.</param>
    /// <exception cref="WorkException">Chromium is missing, or did not draw.</exception>
    public Task<byte[]> DrawAsync(
        string page,
        IEnumerable<(string Path, byte[] Content)> files,
        int width,
        int height,
        CancellationToken cancel
    ) =>
        MakeAsync(
            page,
            files,
            "page.png",
            made => ["--hide-scrollbars", "--default-background-color=00000000", $"--window-size={width},{height}", $"--screenshot={made}"],
            cancel
        );

    private async Task<byte[]> MakeAsync(
        string page,
        IEnumerable<(string Path, byte[] Content)> files,
        string name,
        Func<string, string[]> options,
        CancellationToken cancel
    )
    {
        var program = configuration["Chromium:Path"] ?? "/usr/bin/chromium";
        if (!File.Exists(program))
        {
            throw new WorkException("There is no Chromium on this server, which draws pages. Install Debian's package \"chromium\".");
        }

        var folder = Directory.CreateTempSubdirectory("golden-rule-page-");
        try
        {
            foreach (var (path, content) in files.Append(("page.html", System.Text.Encoding.UTF8.GetBytes(page))))
            {
                var at = Path.Combine(folder.FullName, path);
                Directory.CreateDirectory(Path.GetDirectoryName(at)!);
                await File.WriteAllBytesAsync(at, content, cancel);
            }

            await GiveAwayAsync(folder.FullName, cancel);
            var wanted = Path.Combine(folder.FullName, name);
            var (made, words) = await RunAsync(program, folder.FullName, wanted, options, cancel);
            if (made is null && Open is null)
            {
                Open = words;
                log.LogWarning("Pages are opened without Chromium's sandbox, which does not start here: {Why}", words);
                (made, words) = await RunAsync(program, folder.FullName, wanted, options, cancel);
            }

            return made ?? throw new WorkException("Chromium did not draw the page.", new InvalidOperationException(words));
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    /// <summary>How Chromium is started: the sandbox does not start for root, and root is not what opens a page.</summary>
    public static IEnumerable<string> Command(string program, string folder, bool sandboxed, params IEnumerable<string> options) =>
        [
            .. IsRoot ? [AsNobody, $"--reuid={Nobody}", $"--regid={Nobody}", "--clear-groups"] : Array.Empty<string>(),
            program,
            .. sandboxed ? Array.Empty<string>() : ["--no-sandbox"],
            "--headless",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--disable-extensions",
            "--host-resolver-rules=MAP * ~NOTFOUND",
            $"--user-data-dir={Path.Combine(folder, "profile")}",
            .. options,
            new Uri(Path.Combine(folder, "page.html")).AbsoluteUri,
        ];

    private static bool IsRoot => Environment.UserName == "root" && File.Exists(AsNobody);

    private static async Task GiveAwayAsync(string folder, CancellationToken cancel)
    {
        if (IsRoot)
        {
            using var give = Process.Start("/usr/bin/chown", ["-R", $"{Nobody}:{Nobody}", folder]);
            await give.WaitForExitAsync(cancel);
        }
    }

    // What it made, or what it said.
    private async Task<(byte[]? Made, string Words)> RunAsync(
        string program,
        string folder,
        string wanted,
        Func<string, string[]> options,
        CancellationToken cancel
    )
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(Longest);
        string[] command = [.. Command(program, folder, Open is null, options(wanted))];
        var start = new ProcessStartInfo(command[0], command[1..])
        {
            UseShellExecute = false,
            RedirectStandardError = true,
            RedirectStandardOutput = true,
        };
        start.Environment["HOME"] = folder;
        using var process = Process.Start(start) ?? throw new WorkException("Chromium did not start.");
        var words = process.StandardError.ReadToEndAsync(limit.Token);
        try
        {
            await process.WaitForExitAsync(limit.Token);
        }
        catch (OperationCanceledException)
        {
            process.Kill(entireProcessTree: true);
            cancel.ThrowIfCancellationRequested();
            throw new WorkException("Chromium took too long and was stopped. Ask for it again.");
        }

        return (File.Exists(wanted) ? await File.ReadAllBytesAsync(wanted, cancel) : null, await words);
    }
}

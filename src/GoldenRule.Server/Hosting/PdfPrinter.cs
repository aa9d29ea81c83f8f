using System.Diagnostics;
using GoldenRule.Server.Jobs;

namespace GoldenRule.Server.Hosting;

/// <summary>
/// Prints a page to PDF by headless Chromium from Debian's packages: without a network, in its own sandbox, and as a user
/// that may do nothing else where the server runs as root. Where no sandbox can be had, the log says why.
/// </summary>
public sealed class PdfPrinter(IConfiguration configuration, ILogger<PdfPrinter> log)
{
    private const string AsNobody = "/usr/bin/setpriv";
    private const string Nobody = "65534";

    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(90);

    /// <summary>Why Chromium's own sandbox does not start here. Null: it does, or nothing was printed yet.</summary>
    public string? Open { get; private set; }

    /// <param name="files">What the page shows, by its relative address.</param>
    /// <exception cref="WorkException">Chromium is missing, or did not print.</exception>
    public async Task<byte[]> PrintAsync(string page, IEnumerable<(string Path, byte[] Content)> files, CancellationToken cancel)
    {
        var program = configuration["Chromium:Path"] ?? "/usr/bin/chromium";
        if (!File.Exists(program))
        {
            throw new WorkException("There is no Chromium on this server, which prints the sheet. Install Debian's package \"chromium\".");
        }

        var folder = Directory.CreateTempSubdirectory("golden-rule-print-");
        try
        {
            foreach (var (path, content) in files.Append(("sheet.html", System.Text.Encoding.UTF8.GetBytes(page))))
            {
                var at = Path.Combine(folder.FullName, path);
                Directory.CreateDirectory(Path.GetDirectoryName(at)!);
                await File.WriteAllBytesAsync(at, content, cancel);
            }

            await GiveAwayAsync(folder.FullName, cancel);
            var (made, words) = await PrintAsync(program, folder.FullName, cancel);
            if (made is null && Open is null)
            {
                Open = words;
                log.LogWarning("Sheets are printed without Chromium's sandbox, which does not start here: {Why}", words);
                (made, words) = await PrintAsync(program, folder.FullName, cancel);
            }

            return made ?? throw new WorkException("Chromium did not print the sheet.", new InvalidOperationException(words));
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    /// <summary>How Chromium is started: the sandbox does not start for root, and root is not what opens a page.</summary>
    public static IEnumerable<string> Command(string program, string folder, bool sandboxed) =>
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
            "--no-pdf-header-footer",
            $"--print-to-pdf={Path.Combine(folder, "sheet.pdf")}",
            new Uri(Path.Combine(folder, "sheet.html")).AbsoluteUri,
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

    // What it printed, or what it said.
    private async Task<(byte[]? Made, string Words)> PrintAsync(string program, string folder, CancellationToken cancel)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(Longest);
        string[] command = [.. Command(program, folder, Open is null)];
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
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            process.Kill(entireProcessTree: true);
            throw new WorkException("Printing took too long and was stopped. Ask for it again.");
        }

        var made = Path.Combine(folder, "sheet.pdf");
        return (File.Exists(made) ? await File.ReadAllBytesAsync(made, cancel) : null, await words);
    }
}

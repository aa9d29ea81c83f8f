using System.Diagnostics;
using GoldenRule.Server.Jobs;

namespace GoldenRule.Server.Hosting;

/// <summary>Prints a page to PDF by headless Chromium from Debian's packages, without a network.</summary>
public sealed class PdfPrinter(IConfiguration configuration)
{
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(90);

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
            foreach (var (path, content) in files)
            {
                var at = Path.Combine(folder.FullName, path);
                Directory.CreateDirectory(Path.GetDirectoryName(at)!);
                await File.WriteAllBytesAsync(at, content, cancel);
            }

            var (sheet, made) = (Path.Combine(folder.FullName, "sheet.html"), Path.Combine(folder.FullName, "sheet.pdf"));
            await File.WriteAllTextAsync(sheet, page, cancel);
            using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            limit.CancelAfter(Longest);
            using var process = Process.Start(
                new ProcessStartInfo(
                    program,
                    [
                        // Chromium's own sandbox does not start for root; the page's frames run no script either way.
                        .. Environment.UserName == "root" ? ["--no-sandbox"] : Array.Empty<string>(),
                        "--headless",
                        "--disable-gpu",
                        "--disable-quic",
                        "--no-first-run",
                        "--disable-background-networking",
                        "--disable-component-update",
                        "--disable-sync",
                        "--disable-extensions",
                        "--host-resolver-rules=MAP * ~NOTFOUND",
                        $"--user-data-dir={Path.Combine(folder.FullName, "profile")}",
                        "--no-pdf-header-footer",
                        $"--print-to-pdf={made}",
                        new Uri(sheet).AbsoluteUri,
                    ]
                )
                {
                    UseShellExecute = false,
                    RedirectStandardError = true,
                    RedirectStandardOutput = true,
                }
            ) ?? throw new WorkException("Chromium did not start.");
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

            return File.Exists(made)
                ? await File.ReadAllBytesAsync(made, cancel)
                : throw new WorkException("Chromium did not print the sheet.", new InvalidOperationException(await words));
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }
}

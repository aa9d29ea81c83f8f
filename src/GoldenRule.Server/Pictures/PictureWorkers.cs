using System.Diagnostics;
using System.Text.Json;
using GoldenRule.PictureWorker;
using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.Pictures;

/// <summary>
/// Draws picture files, each in a short-lived process of its own: what a hostile file does to a decoder it does there,
/// without a network, without the server's files, and within bounds of time and memory.
/// </summary>
public sealed class PictureWorkers(WorkerConfinement confinement, ILogger<PictureWorkers> log) : IDisposable
{
    /// <summary>Of the wall, for a machine that is busy; the worker bounds the processor time of opening by itself.</summary>
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(30);

    /// <summary>At once: two slow files do not make a third wait.</summary>
    private readonly SemaphoreSlim _places = new(4);

    /// <summary>One that is started already and waits to be asked: starting takes longer than most files.</summary>
    private Process? _spare;

    /// <exception cref="ProblemException">The file was not taken; it says why.</exception>
    public async Task<PictureAnswer> RunAsync(PictureRequest request, CancellationToken cancel)
    {
        if (request.Task != PictureTask.Tiles)
        {
            RefuseTooLarge(request.File.Length);
        }

        await _places.WaitAsync(cancel);
        try
        {
            var answer = await DrawAsync(request, cancel);
            return answer.Refused is { } reason ? throw Unfit(reason, answer.TooLarge) : answer;
        }
        finally
        {
            _places.Release();
        }
    }

    public void Dispose()
    {
        _places.Dispose();
        if (Interlocked.Exchange(ref _spare, null) is { } spare)
        {
            End(spare);
        }
    }

    public static void RefuseTooLarge(long bytes)
    {
        try
        {
            PictureSource.RefuseTooLarge(bytes);
        }
        catch (UnfitException unfit)
        {
            throw Unfit(unfit.Message, unfit.TooLarge);
        }
    }

    private static ProblemException Unfit(string reason, bool tooLarge) =>
        tooLarge ? ProblemException.TooLarge(reason) : new ProblemException(422, "picture", "The picture was not taken", reason);

    private async Task<PictureAnswer> DrawAsync(PictureRequest request, CancellationToken cancel)
    {
        var process = Interlocked.Exchange(ref _spare, null) is { HasExited: false } ready ? ready : Start();
        KeepSpare();
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(Longest);
        var complaint = process.StandardError.ReadToEndAsync(CancellationToken.None);
        try
        {
            var sent = SendAsync(process, request, limit.Token);
            using var said = new MemoryStream();
            await process.StandardOutput.BaseStream.CopyToAsync(said, limit.Token);
            await process.WaitForExitAsync(limit.Token);
            await sent;
            if (process.ExitCode == 0 && said.Length > 0)
            {
                return JsonSerializer.Deserialize(said.ToArray(), PictureMessages.Default.PictureAnswer)!;
            }

            log.LogWarning(
                "A picture worker ended with {Code} over a file of {Bytes} bytes: {Complaint}",
                process.ExitCode,
                request.File.Length,
                First(await complaint)
            );
            return PictureAnswer.Unfit(
                $"\"{request.Name}\" cannot be opened: drawing it takes more time or memory than a picture needs. "
                    + "Make it simpler, or save it as a PNG."
            );
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            return PictureAnswer.Unfit($"\"{request.Name}\" takes too long to open. Make it simpler, or save it as a PNG.");
        }
        finally
        {
            End(process);
        }
    }

    private Process Start() =>
        Process.Start(confinement.Worker()) ?? throw new InvalidOperationException("The picture worker did not start.");

    private void KeepSpare()
    {
        if (_spare is null && Start() is var spare && Interlocked.CompareExchange(ref _spare, spare, null) is not null)
        {
            // Another request was first.
            End(spare);
        }
    }

    private static void End(Process process)
    {
        if (!process.HasExited)
        {
            process.Kill(entireProcessTree: true);
        }

        process.Dispose();
    }

    private static async Task SendAsync(Process process, PictureRequest request, CancellationToken cancel)
    {
        try
        {
            await using var input = process.StandardInput.BaseStream;
            await JsonSerializer.SerializeAsync(input, request, PictureMessages.Default.PictureRequest, cancel);
        }
        catch (IOException)
        {
            // It ended before it had read all of it; its exit says how.
        }
    }

    private static string First(string text) => text.Length > 400 ? text[..400] : text;
}

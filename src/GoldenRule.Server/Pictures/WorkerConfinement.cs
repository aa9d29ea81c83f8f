using System.Diagnostics;
using System.Runtime.InteropServices;
using System.Text.Json;
using GoldenRule.PictureWorker;

namespace GoldenRule.Server.Pictures;

/// <summary>
/// How the picture worker is shut in: bubblewrap takes the network, the server's files and every other process away,
/// prlimit bounds memory and processor time. Where the machine does not allow the first, the log says so and the second stays.
/// </summary>
public sealed class WorkerConfinement
{
    private const string Bubblewrap = "/usr/bin/bwrap";
    private const string Limits = "/usr/bin/prlimit";

    private static readonly string Runtime = Path.GetFullPath(Path.Combine(RuntimeEnvironment.GetRuntimeDirectory(), "..", "..", ".."));
    private static readonly string Assembly = typeof(PictureSource).Assembly.Location;

    private readonly string[] _before;

    public WorkerConfinement(ILogger<WorkerConfinement> log)
    {
        string[] shutIn = [Bubblewrap, .. Rooms()];
        Open = File.Exists(Bubblewrap) ? Fault(shutIn) : "bubblewrap is not installed";
        if (Open is not null)
        {
            log.LogWarning("Picture files are drawn without a sandbox, only with bounds on time and memory: {Why}", Open);
        }

        _before =
        [
            .. File.Exists(Limits) ? [Limits, "--cpu=20", $"--data={1L << 30}", "--core=0"] : Array.Empty<string>(),
            .. Open is null ? shutIn : [],
        ];
    }

    /// <summary>Why the worker could reach the network and the server's files. Null: it cannot.</summary>
    public string? Open { get; }

    /// <summary>The worker, ready to be started.</summary>
    public ProcessStartInfo Worker() => Confined(Path.Combine(Runtime, "dotnet"), Assembly);

    /// <summary>Any program, shut in as the worker is.</summary>
    public ProcessStartInfo Confined(params string[] program)
    {
        string[] command = [.. _before, .. program];
        var start = new ProcessStartInfo(command[0], command[1..])
        {
            UseShellExecute = false,
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            WorkingDirectory = "/",
        };
        start.Environment.Clear();
        start.Environment["DOTNET_GCHeapHardLimit"] = "0x10000000";
        start.Environment["DOTNET_EnableDiagnostics"] = "0";
        start.Environment["DOTNET_TieredPGO"] = "0";
        // Nothing lives long enough in it to be guarded so, and it starts sooner.
        start.Environment["DOTNET_EnableWriteXorExecute"] = "0";
        return start;
    }

    // Only what the runtime needs to run is there, and nothing can be written.
    private static IEnumerable<string> Rooms()
    {
        // What is mounted later covers what was there: the program may lie below /tmp itself.
        foreach (var part in (string[])["--unshare-all", "--new-session", "--proc", "/proc", "--dev", "/dev", "--tmpfs", "/tmp"])
        {
            yield return part;
        }

        foreach (var path in (string[])["/usr", "/lib", "/lib64", "/etc/ld.so.cache", Runtime, .. WorkerFiles()])
        {
            yield return "--ro-bind-try";
            yield return path;
            yield return path;
        }

        yield return "--chdir";
        yield return "/";
    }

    // The worker lies among the server's own files: of those only what it is made of, as its list of parts says.
    private static IEnumerable<string> WorkerFiles()
    {
        var folder = Path.GetDirectoryName(Assembly)!;
        var name = Path.GetFileNameWithoutExtension(Assembly);
        var parts = Path.Combine(folder, $"{name}.deps.json");
        yield return Path.Combine(folder, $"{name}.runtimeconfig.json");
        yield return parts;
        using var list = JsonDocument.Parse(File.ReadAllBytes(parts));
        foreach (
            var library in list.RootElement.GetProperty("targets").EnumerateObject().SelectMany(target => target.Value.EnumerateObject())
        )
        {
            foreach (var file in Assets(library.Value, "runtime").Select(Path.GetFileName).Concat(Assets(library.Value, "runtimeTargets")))
            {
                yield return Path.Combine(folder, file!);
            }
        }

        static IEnumerable<string> Assets(JsonElement library, string kind) =>
            library.TryGetProperty(kind, out var assets) ? assets.EnumerateObject().Select(asset => asset.Name) : [];
    }

    // Not every machine lets a program make a namespace: it is tried once.
    private static string? Fault(string[] shutIn)
    {
        using var tried = Process.Start(
            new ProcessStartInfo(shutIn[0], [.. shutIn[1..], "/usr/bin/test", "-r", Assembly])
            {
                UseShellExecute = false,
                RedirectStandardError = true,
            }
        );
        var words = tried?.StandardError.ReadToEnd();
        tried?.WaitForExit();
        if (tried?.ExitCode == 0)
        {
            return null;
        }

        return words?.Trim() is { Length: > 0 } said ? said : "the worker cannot be read in it";
    }
}

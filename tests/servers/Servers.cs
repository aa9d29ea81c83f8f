using System.Collections.Concurrent;
using Microsoft.AspNetCore.Mvc.Testing;

namespace GoldenRule.Servers;

/// <summary>
/// Servers for the browser's tests, each over a database of its own, all in one process: a server that lives for minutes spends four
/// fifths of its time on compiling its methods, and here that is done once. PUT /PORT with the settings as JSON starts one, DELETE ends
/// it.
/// </summary>
internal static class Servers
{
    public static Task Main(string[] args)
    {
        var running = new ConcurrentDictionary<int, WebApplicationFactory<Program>>();
        var builder = WebApplication.CreateSlimBuilder(args);
        builder.Logging.SetMinimumLevel(LogLevel.Warning);
        var app = builder.Build();
        var log = app.Services.GetRequiredService<ILoggerFactory>();
        app.MapGet("/", () => running.Count);
        app.MapPut("/{port:int}", (int port, Dictionary<string, string> settings) =>
        {
            var server = running[port] = new OneServer(settings, log);
            server.UseKestrel(port);
            server.StartServer();
        });
        app.MapDelete("/{port:int}", async (int port) => await (running.TryRemove(port, out var server) ? server.DisposeAsync() : default));
        return app.RunAsync();
    }

    /// <summary>The server as its own program makes it.</summary>
    private sealed class OneServer(Dictionary<string, string> settings, ILoggerFactory log) : WebApplicationFactory<Program>
    {
        protected override void ConfigureWebHost(IWebHostBuilder builder)
        {
            builder.UseEnvironment(Environments.Production);
            foreach (var (name, value) in settings)
            {
                builder.UseSetting(name, value);
            }

            // Hangfire logs for the whole process to where the server that began last does: that has to outlive it.
            builder.ConfigureServices(services => services.AddSingleton(log));
        }
    }
}

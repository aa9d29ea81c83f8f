using GoldenRule.Server.Audits;
using GoldenRule.Server.Emails;
using GoldenRule.Server.Hosting;
using Hangfire;
using Hangfire.AspNetCore;
using Hangfire.PostgreSql;
using Hangfire.PostgreSql.Factories;

namespace GoldenRule.Server.Jobs;

/// <summary>Long work runs in the background of whichever server takes it; Hangfire hands it out over PostgreSQL.</summary>
public static class JobSetup
{
    /// <param name="describing">True: there is no database, and nothing runs.</param>
    public static void AddJobs(this IServiceCollection services, string connection, bool describing)
    {
        services.AddSingleton<PdfPrinter>();
        services.AddScoped<JobDesk>();
        if (describing)
        {
            return;
        }

        services.AddScoped<JobRunner>();
        services.AddScoped<Work, AuditWork>();
        services.AddScoped<Work, SignOffWork>();
        // Hangfire's own storage and services are one for the whole process; these are this server's.
        var options = new PostgreSqlStorageOptions
        {
            QueuePollInterval = TimeSpan.FromSeconds(1),
            InvisibilityTimeout = TimeSpan.FromMinutes(10),
        };
        services.AddSingleton<JobStorage>(_ => new PostgreSqlStorage(new NpgsqlConnectionFactory(connection, options), options));
        services.AddSingleton<JobActivator>(s => new AspNetCoreJobActivator(s.GetRequiredService<IServiceScopeFactory>()));
        services.AddHangfire(c => c.UseRecommendedSerializerSettings());
        services.AddHangfireServer(o =>
        {
            o.WorkerCount = 2;
            o.ShutdownTimeout = TimeSpan.FromSeconds(2);
        });
    }
}

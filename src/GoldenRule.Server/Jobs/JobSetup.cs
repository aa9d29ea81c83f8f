using GoldenRule.Server.Audits;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Emails;
using GoldenRule.Server.HandOffs;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.HouseStyles;
using GoldenRule.Server.TestSends;
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
        services.AddSingleton<HeadlessChromium>();
        services.AddScoped<JobDesk>();
        if (describing)
        {
            return;
        }

        services.AddScoped<JobRunner>();
        services.AddScoped<Work, AuditWork>();
        services.AddScoped<Work, SignOffWork>();
        services.AddScoped<Work, HandOffSheetWork>();
        services.AddScoped<Work, TestSendWork>();
        services.AddScoped<Work, ReachWork>();
        services.AddScoped<Work, MasterReachWork>();
        // Named here, as Hangfire's own are the whole process's: two servers in one would hand each other their jobs.
        services.AddSingleton<JobActivator>(provider => new AspNetCoreJobActivator(provider.GetRequiredService<IServiceScopeFactory>()));
        services.AddSingleton<JobStorage>(_ =>
        {
            var options = new PostgreSqlStorageOptions
            {
                QueuePollInterval = TimeSpan.FromSeconds(1),
                InvisibilityTimeout = TimeSpan.FromMinutes(10),
            };
            return new PostgreSqlStorage(new NpgsqlConnectionFactory(connection, options), options);
        });
        services.AddHangfire(c => c.UseRecommendedSerializerSettings());
        services.AddHangfireServer(o =>
        {
            o.WorkerCount = 2;
            o.ShutdownTimeout = TimeSpan.FromSeconds(2);
        });
    }
}

using GoldenRule.Data;
using Microsoft.Extensions.Diagnostics.HealthChecks;

namespace GoldenRule.Server.Hosting;

public sealed class DatabaseReady(GoldenRuleDb db) : IHealthCheck
{
    public async Task<HealthCheckResult> CheckHealthAsync(HealthCheckContext context, CancellationToken cancellationToken = default) =>
        await db.Database.CanConnectAsync(cancellationToken)
            ? HealthCheckResult.Healthy()
            : HealthCheckResult.Unhealthy("The database does not answer.");
}

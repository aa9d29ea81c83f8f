using Microsoft.EntityFrameworkCore.Diagnostics;

namespace GoldenRule.Server.Hosting;

/// <summary>What is about to be stored is worked out: from there on no budget ends the request, so that its answer is true.</summary>
public sealed class LiftBudgetOnSave : SaveChangesInterceptor
{
    public override ValueTask<InterceptionResult<int>> SavingChangesAsync(
        DbContextEventData eventData,
        InterceptionResult<int> result,
        CancellationToken cancellationToken = default
    )
    {
        RequestBudget.Lift();
        return base.SavingChangesAsync(eventData, result, cancellationToken);
    }
}

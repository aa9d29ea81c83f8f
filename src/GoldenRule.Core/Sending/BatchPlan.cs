using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using NodaTime;

namespace GoldenRule.Core.Sending;

/// <param name="Number">From 1.</param>
/// <param name="At">UTC.</param>
public sealed record PlannedBatch(int Number, DateTime At, int Size);

/// <summary>When which part of a list is sent to.</summary>
public static class BatchPlan
{
    public const int MostBatches = 2_000;

    /// <param name="recipients">How many are sent to.</param>
    /// <param name="start">UTC; the first batch begins then, or when the day does.</param>
    /// <param name="former">Batches that were sent before: numbers and growth go on from there.</param>
    /// <exception cref="StructureException">Nothing can be sent so; says why.</exception>
    public static ImmutableArray<PlannedBatch> Draw(
        BatchRule rule,
        int recipients,
        DateTime start,
        string zone,
        FormerBatches? former = null
    )
    {
        if (rule.Fault() is var (why, where))
        {
            throw new StructureException(why, where);
        }

        var clock = SendMoment.ZoneOf(zone);
        var at = Instant.FromDateTimeUtc(DateTime.SpecifyKind(start, DateTimeKind.Utc));
        var first = SendMoment.LocalOf(former?.FirstAt ?? start, clock).Date;
        var plan = ImmutableArray.CreateBuilder<PlannedBatch>();
        for (var left = recipients; left > 0; )
        {
            if (plan.Count == MostBatches)
            {
                throw new StructureException(
                    $"That would take more than {MostBatches:N0} batches. Let them be larger, or grow from day to day.",
                    "size"
                );
            }

            at = WithinDay(at, rule, clock);
            var size = Math.Min(left, rule.SizeOn(Period.Between(first, at.InZone(clock).Date, PeriodUnits.Days).Days));
            plan.Add(new((former?.Number ?? 0) + plan.Count + 1, at.ToDateTimeUtc(), size));
            left -= size;
            at += Duration.FromMinutes(rule.Minutes);
        }

        return plan.ToImmutable();
    }

    private static Instant WithinDay(Instant at, BatchRule rule, DateTimeZone clock)
    {
        var local = at.InZone(clock).LocalDateTime;
        if (local.Hour >= rule.From && local.Hour < rule.Until)
        {
            return at;
        }

        var day = local.Hour < rule.From ? local.Date : local.Date.PlusDays(1);
        // Where the hour does not come that day, the one after it does.
        return clock.AtLeniently(day.At(new LocalTime(rule.From, 0))).ToInstant();
    }
}

/// <summary>What was sent of a plan before the rest of it is drawn anew.</summary>
/// <param name="Number">Of the last batch.</param>
/// <param name="FirstAt">UTC.</param>
public sealed record FormerBatches(int Number, DateTime FirstAt);

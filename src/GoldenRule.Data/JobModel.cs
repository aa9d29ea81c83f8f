using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Data;

/// <summary>How long work stands in the database.</summary>
internal static class JobModel
{
    public static void MapJobs(this ModelBuilder builder)
    {
        builder.Entity<StoredJob>(e =>
        {
            e.ToTable("jobs");
            e.Property(x => x.State).HasConversion<string>();
            e.HasIndex(x => new { x.Work, x.AskedAt }).IsDescending(false, true);
        });
        builder.Entity<StoredJobFinding>(e =>
        {
            e.ToTable("job_findings");
            e.HasKey(x => new { x.JobId, x.Sequence });
            e.Property(x => x.Body).HasColumnType("jsonb");
            e.HasOne<StoredJob>().WithMany().HasForeignKey(x => x.JobId).OnDelete(DeleteBehavior.Cascade);
        });
    }
}

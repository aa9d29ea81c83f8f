using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Data;

/// <summary>How reviews and comments stand in the database.</summary>
internal static class ReviewModel
{
    public static void MapReviews(this ModelBuilder builder)
    {
        builder.Entity<StoredReviewRound>(e =>
        {
            e.ToTable("review_rounds");
            e.HasIndex(r => new { r.DocumentId, r.Number }).IsUnique();
            e.HasIndex(r => r.DocumentId).IsUnique().HasFilter("state = 'Open'").HasDatabaseName("ix_review_rounds_open");
            e.HasIndex(r => new { r.State, r.AskedAt });
            e.Property(r => r.State).HasConversion<string>();
            e.Property(r => r.Rule).HasColumnType("jsonb").HasConversion(v => DocumentJson.Write(v), v => DocumentJson.Read<ReviewRule>(v));
            e.Property(r => r.Answers)
                .HasColumnType("jsonb")
                .HasConversion(v => DocumentJson.Write(v), v => DocumentJson.Read<Dictionary<string, string>>(v));
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(r => r.DocumentId).OnDelete(DeleteBehavior.Cascade);
            e.HasMany(r => r.Decisions).WithOne().HasForeignKey(d => d.RoundId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<StoredReviewDecision>(e =>
        {
            e.ToTable("review_decisions");
            e.HasKey(d => new { d.RoundId, d.Sequence });
            e.Property(d => d.Verdict).HasConversion<string>();
            e.Property(d => d.SameBrowserAs).HasDefaultValueSql("'{}'");
        });
        builder.Entity<StoredSeenEmail>(e =>
        {
            e.ToTable("seen_emails");
            e.HasKey(s => new { s.DocumentId, s.Hash });
            e.Property(s => s.Body).HasColumnType("jsonb");
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(s => s.DocumentId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<StoredComment>(e =>
        {
            e.ToTable("comments");
            e.HasIndex(c => new { c.DocumentId, c.At });
            e.HasIndex(c => c.Mentions).HasMethod("gin");
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(c => c.DocumentId).OnDelete(DeleteBehavior.Cascade);
            e.HasOne<StoredComment>().WithMany().HasForeignKey(c => c.ThreadId).OnDelete(DeleteBehavior.Cascade);
        });
    }
}

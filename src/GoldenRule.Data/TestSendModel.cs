using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Data;

/// <summary>How test sends stand in the database.</summary>
internal static class TestSendModel
{
    public static void MapTestSends(this ModelBuilder builder)
    {
        builder.Entity<StoredTestSend>(e =>
        {
            e.ToTable("test_sends");
            e.HasIndex(t => new { t.DocumentId, t.AskedAt });
            e.HasIndex(t => new { t.AskedBy, t.AskedAt });
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(t => t.DocumentId).OnDelete(DeleteBehavior.Cascade);
            e.HasMany(t => t.Messages).WithOne().HasForeignKey(m => m.TestSendId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<StoredTestMessage>(e =>
        {
            e.ToTable("test_messages");
            e.HasKey(m => new { m.TestSendId, m.Number });
            e.Property(m => m.State).HasConversion<string>();
        });
        builder.Entity<StoredTester>(e =>
        {
            e.ToTable("testers");
            e.HasIndex(t => t.Address).IsUnique();
        });
    }
}

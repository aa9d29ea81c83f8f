using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Data;

/// <summary>How what was handed off stands in the database.</summary>
internal static class HandOffModel
{
    public static void MapHandOffs(this ModelBuilder builder)
    {
        builder.Entity<StoredHandOff>(e =>
        {
            e.ToTable("hand_offs");
            e.HasIndex(h => new { h.DocumentId, h.Number }).IsUnique();
            e.HasIndex(h => h.Address).IsUnique();
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(h => h.DocumentId).OnDelete(DeleteBehavior.Restrict);
            e.HasMany(h => h.Files).WithOne().HasForeignKey(f => f.HandOffId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne(h => h.Page).WithOne().HasForeignKey<StoredHandOffPage>(p => p.HandOffId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne(h => h.Sending).WithOne().HasForeignKey<StoredPersonalSend>(s => s.HandOffId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne(h => h.Withdrawal).WithOne().HasForeignKey<StoredWithdrawal>(w => w.HandOffId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<StoredPersonalSend>(e =>
        {
            e.ToTable("personal_sends");
            e.HasKey(s => s.HandOffId);
            e.Property(s => s.State).HasConversion<string>();
        });
        builder.Entity<StoredHandOffFile>(e =>
        {
            e.ToTable("hand_off_files");
            e.HasKey(f => new { f.HandOffId, f.Name });
            e.HasIndex(f => f.Sha256);
            e.HasOne<FrozenContent>().WithMany().HasForeignKey(f => f.Sha256).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<FrozenContent>(e =>
        {
            e.ToTable("frozen_contents");
            e.HasKey(c => c.Sha256);
        });
        builder.Entity<StoredHandOffPage>(e =>
        {
            e.ToTable("hand_off_pages");
            e.HasKey(p => p.HandOffId);
        });
        builder.Entity<StoredWithdrawal>(e =>
        {
            e.ToTable("hand_off_withdrawals");
            e.HasKey(w => w.HandOffId);
        });
    }
}

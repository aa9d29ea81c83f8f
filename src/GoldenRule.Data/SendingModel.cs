using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Data;

/// <summary>How what goes to the sending side, and what comes back from it, stands in the database.</summary>
internal static class SendingModel
{
    public static void MapSending(this ModelBuilder builder)
    {
        builder.Entity<StoredDestination>(e =>
        {
            e.ToTable("destinations");
            e.Property(d => d.Pictures).HasConversion<string>();
            e.HasIndex(d => d.Name).IsUnique().HasFilter("retired_at is null");
        });
        builder.Entity<StoredPush>(e =>
        {
            e.ToTable("pushes");
            e.Property(p => p.State).HasConversion<string>();
            e.HasIndex(p => new { p.HandOffId, p.DestinationId }).IsUnique();
            e.HasIndex(p => p.NextTry).HasFilter("next_try is not null");
            e.HasOne<StoredHandOff>().WithMany().HasForeignKey(p => p.HandOffId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<StoredDestination>().WithMany().HasForeignKey(p => p.DestinationId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<StoredSend>(e =>
        {
            e.ToTable("sends");
            e.Property(s => s.State).HasConversion<string>();
            e.Property(s => s.Rule).HasColumnType("jsonb");
            e.HasIndex(s => new { s.HandOffId, s.AskedAt });
            e.HasIndex(s => s.DueAt).HasFilter("due_at is not null");
            e.HasOne<StoredHandOff>().WithMany().HasForeignKey(s => s.HandOffId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<StoredDestination>().WithMany().HasForeignKey(s => s.DestinationId).OnDelete(DeleteBehavior.Restrict);
            e.HasMany(s => s.Batches).WithOne().HasForeignKey(b => b.SendId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<StoredBatch>(e =>
        {
            e.ToTable("send_batches");
            e.HasKey(b => new { b.SendId, b.Number });
        });
        builder.Entity<StoredRecipient>(e =>
        {
            e.ToTable("send_recipients");
            e.HasKey(r => new { r.SendId, r.Position });
            e.Property(r => r.State).HasConversion<string>();
            e.Property(r => r.Values).HasColumnType("jsonb");
            e.HasIndex(r => new
            {
                r.SendId,
                r.State,
                r.Tries,
                r.Position,
            });
            e.HasOne<StoredSend>().WithMany().HasForeignKey(r => r.SendId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<UnsubscribedAddress>(e =>
        {
            e.ToTable("unsubscribed_addresses");
            e.HasKey(u => u.Hash);
        });
        builder.Entity<ReturnedCount>(e =>
        {
            e.ToTable("returned_counts");
            e.HasKey(c => new
            {
                c.HandOffId,
                c.Kind,
                c.Link,
                c.Scanner,
            });
            e.HasOne<StoredHandOff>().WithMany().HasForeignKey(c => c.HandOffId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<ReturnedHandOff>(e =>
        {
            e.ToTable("returned_hand_offs");
            e.HasKey(h => h.HandOffId);
            e.HasIndex(h => h.Month);
            e.HasOne<StoredHandOff>().WithOne().HasForeignKey<ReturnedHandOff>(h => h.HandOffId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<CountedEvent>(e =>
        {
            e.ToTable("counted_events");
            e.HasKey(c => new { c.HandOffId, c.Hash });
            e.HasIndex(c => c.At);
        });
        builder.Entity<StoredToken>(e =>
        {
            e.ToTable("api_tokens");
            e.HasIndex(t => t.Hash).IsUnique();
        });
        builder.Entity<StoredWebhook>(e => e.ToTable("webhooks"));
        builder.Entity<StoredDelivery>(e =>
        {
            e.ToTable("webhook_deliveries");
            e.Property(d => d.State).HasConversion<string>();
            e.HasIndex(d => new { d.WebhookId, d.At });
            e.HasIndex(d => d.NextTry).HasFilter("next_try is not null");
            e.HasOne<StoredWebhook>().WithMany().HasForeignKey(d => d.WebhookId).OnDelete(DeleteBehavior.Cascade);
        });
    }
}

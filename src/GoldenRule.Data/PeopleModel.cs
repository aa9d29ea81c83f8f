using GoldenRule.Core.Documents;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Data;

/// <summary>How people stand in the database: where they are signed in, what they are told of, their mail.</summary>
internal static class PeopleModel
{
    public static void MapPeople(this ModelBuilder builder)
    {
        builder.Entity<Account>(e =>
            e.Property(a => a.NoticeChoices)
                .HasColumnType("jsonb")
                .HasConversion(v => DocumentJson.Write(v), v => DocumentJson.Read<Dictionary<string, NoticeChoice>>(v))
                .HasDefaultValueSql("'{}'")
        );
        builder.Entity<StoredSession>(e =>
        {
            e.ToTable("sessions");
            e.HasIndex(s => s.ExpiresAt);
            e.HasOne<Account>().WithMany().HasForeignKey(s => s.PersonId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<KnownBrowser>(e =>
        {
            e.ToTable("known_browsers");
            e.HasKey(b => new { b.Browser, b.PersonId });
            e.HasOne<Account>().WithMany().HasForeignKey(b => b.PersonId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<StoredNotice>(e =>
        {
            e.ToTable("notices");
            e.HasKey(n => new { n.PersonId, n.Key });
            e.HasOne<Account>().WithMany().HasForeignKey(n => n.PersonId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<OutgoingMail>(e =>
        {
            e.ToTable("outgoing_mails");
            e.HasIndex(m => m.NextTry).HasFilter("next_try is not null");
            e.HasIndex(m => new { m.AccountId, m.AskedAt });
            e.HasOne<Account>().WithMany().HasForeignKey(m => m.AccountId).OnDelete(DeleteBehavior.Cascade);
        });
    }
}

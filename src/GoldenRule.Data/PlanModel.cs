using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Data;

/// <summary>How teams, campaign types and row kinds, and what is planned for them, stand in the database.</summary>
internal static class PlanModel
{
    public static void MapPlan(this ModelBuilder builder)
    {
        builder.Entity<CampaignType>(e =>
        {
            e.ToTable("campaign_types");
            e.HasKey(x => x.Key);
            e.Property(x => x.LinkTags)
                .HasColumnType("jsonb")
                .HasConversion(v => DocumentJson.Write(v), v => DocumentJson.Read<LinkTags>(v))
                .HasDefaultValue(LinkTags.None);
            e.Property(x => x.ReviewRule)
                .HasColumnType("jsonb")
                .HasConversion(v => DocumentJson.Write(v), v => DocumentJson.Read<ReviewRule>(v))
                .HasDefaultValue(ReviewRule.Usual);
            e.HasOne<CampaignType>().WithMany().HasForeignKey(x => x.MergedInto).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<StoredRowKind>(e =>
        {
            e.ToTable("row_kinds");
            e.HasKey(x => x.Key);
            e.Property(x => x.Purpose).HasConversion<string>();
            e.HasOne<StoredRowKind>().WithMany().HasForeignKey(x => x.MergedInto).OnDelete(DeleteBehavior.Restrict);
            e.HasData(
                RowKindPlan.Usual.Kinds.Select(
                    (kind, at) =>
                        new StoredRowKind
                        {
                            Key = kind.Key,
                            Name = kind.Name,
                            Purpose = kind.Purpose,
                            Position = at,
                        }
                )
            );
        });
        builder.Entity<StoredTeam>(e =>
        {
            e.ToTable("teams");
            e.Property(t => t.ForOthers).HasConversion<string>();
            e.HasOne<StoredTeam>().WithMany().HasForeignKey(t => t.MergedInto).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<TeamMember>(e =>
        {
            e.ToTable("team_members");
            e.HasKey(m => new
            {
                m.PersonId,
                m.TeamId,
                m.Role,
            });
            e.Property(m => m.Role).HasConversion<string>();
            e.HasOne<Account>().WithMany().HasForeignKey(m => m.PersonId).OnDelete(DeleteBehavior.Cascade);
            e.HasOne<StoredTeam>().WithMany().HasForeignKey(m => m.TeamId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<CoverageNeed>(e =>
        {
            e.ToTable("coverage_needs");
            e.HasKey(x => new { x.CampaignType, x.RowKind });
            e.HasOne<CampaignType>().WithMany().HasForeignKey(x => x.CampaignType).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<StoredCheckPolicy>(e =>
        {
            e.ToTable("check_policies");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.Property(x => x.Body).HasColumnType("jsonb");
            e.Property(x => x.Revision).IsConcurrencyToken();
            e.HasData(new StoredCheckPolicy { Id = 1, Body = "{}" });
        });
        builder.Entity<Organisation>(e =>
        {
            e.ToTable("organisations");
            e.Property(o => o.Id).ValueGeneratedNever();
            e.HasData(new Organisation());
        });
    }
}

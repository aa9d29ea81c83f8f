using System.Linq.Expressions;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;
using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace GoldenRule.Data;

/// <summary>The database. Documents are jsonb; what must never change is protected by triggers (see the first migration).</summary>
public sealed class GoldenRuleDb(DbContextOptions<GoldenRuleDb> options)
    : IdentityDbContext<Account, IdentityRole<Guid>, Guid>(options),
        IDataProtectionKeyContext
{
    public DbSet<StoredDocument> Documents => Set<StoredDocument>();

    public DbSet<StoredWords> EmailWords => Set<StoredWords>();

    public DbSet<EmailBehind> EmailsBehind => Set<EmailBehind>();

    public DbSet<StoredReference> References => Set<StoredReference>();

    public DbSet<StoredEdit> Edits => Set<StoredEdit>();

    public DbSet<StoredSnapshot> Snapshots => Set<StoredSnapshot>();

    public DbSet<StoredRelease> Releases => Set<StoredRelease>();

    public DbSet<PlannedRelease> PlannedReleases => Set<PlannedRelease>();

    public DbSet<StoredNotice> Notices => Set<StoredNotice>();

    public DbSet<KnownBrowser> KnownBrowsers => Set<KnownBrowser>();

    public DbSet<StoredPicture> Pictures => Set<StoredPicture>();

    public DbSet<StoredPictureFile> PictureFiles => Set<StoredPictureFile>();

    public DbSet<StoredThumbnail> Thumbnails => Set<StoredThumbnail>();

    public DbSet<CampaignType> CampaignTypes => Set<CampaignType>();

    public DbSet<StoredReviewRound> ReviewRounds => Set<StoredReviewRound>();

    public DbSet<StoredReviewDecision> ReviewDecisions => Set<StoredReviewDecision>();

    public DbSet<StoredSeenEmail> SeenEmails => Set<StoredSeenEmail>();

    public DbSet<StoredComment> Comments => Set<StoredComment>();

    public DbSet<StoredHandOff> HandOffs => Set<StoredHandOff>();

    public DbSet<StoredHandOffFile> HandOffFiles => Set<StoredHandOffFile>();

    public DbSet<FrozenContent> FrozenContents => Set<FrozenContent>();

    public DbSet<StoredHandOffPage> HandOffPages => Set<StoredHandOffPage>();

    public DbSet<StoredWithdrawal> Withdrawals => Set<StoredWithdrawal>();

    public DbSet<StoredPersonalSend> PersonalSends => Set<StoredPersonalSend>();

    public DbSet<StoredTestSend> TestSends => Set<StoredTestSend>();

    public DbSet<StoredTestMessage> TestMessages => Set<StoredTestMessage>();

    public DbSet<StoredTester> Testers => Set<StoredTester>();

    public DbSet<StoredDestination> Destinations => Set<StoredDestination>();

    public DbSet<StoredPush> Pushes => Set<StoredPush>();

    public DbSet<StoredSend> Sends => Set<StoredSend>();

    public DbSet<StoredBatch> Batches => Set<StoredBatch>();

    public DbSet<StoredRecipient> Recipients => Set<StoredRecipient>();

    public DbSet<UnsubscribedAddress> UnsubscribedAddresses => Set<UnsubscribedAddress>();

    public DbSet<ReturnedCount> ReturnedCounts => Set<ReturnedCount>();

    public DbSet<ReturnedHandOff> ReturnedHandOffs => Set<ReturnedHandOff>();

    public DbSet<StoredToken> Tokens => Set<StoredToken>();

    public DbSet<StoredWebhook> Webhooks => Set<StoredWebhook>();

    public DbSet<StoredDelivery> Deliveries => Set<StoredDelivery>();

    public DbSet<StoredRowKind> RowKinds => Set<StoredRowKind>();

    public DbSet<OutgoingMail> OutgoingMails => Set<OutgoingMail>();

    public DbSet<Organisation> Organisations => Set<Organisation>();

    public DbSet<LogEntry> Log => Set<LogEntry>();

    public DbSet<LogSetting> LogSettings => Set<LogSetting>();

    public DbSet<StoredTeam> Teams => Set<StoredTeam>();

    public DbSet<TeamMember> TeamMembers => Set<TeamMember>();

    public DbSet<CoverageNeed> CoverageNeeds => Set<CoverageNeed>();

    public DbSet<StoredCheckPolicy> CheckPolicies => Set<StoredCheckPolicy>();

    public DbSet<StoredReader> SampleReaders => Set<StoredReader>();

    public DbSet<StoredFile> Files => Set<StoredFile>();

    public DbSet<StoredJob> Jobs => Set<StoredJob>();

    public DbSet<StoredJobFinding> JobFindings => Set<StoredJobFinding>();

    public DbSet<StoredSession> Sessions => Set<StoredSession>();

    public DbSet<LibraryPart> LibraryParts => Set<LibraryPart>();

    public DbSet<LibraryStamp> LibraryStamp => Set<LibraryStamp>();

    public DbSet<DataProtectionKey> DataProtectionKeys => Set<DataProtectionKey>();

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);

        builder.Entity<Account>(e =>
            e.Property(a => a.NoticeChoices)
                .HasColumnType("jsonb")
                .HasConversion(v => DocumentJson.Write(v), v => DocumentJson.Read<Dictionary<string, NoticeChoice>>(v))
                .HasDefaultValueSql("'{}'")
        );
        builder.Entity<StoredDocument>(e =>
        {
            e.ToTable("documents");
            e.Property(d => d.Kind).HasConversion<string>();
            e.Property(d => d.State).HasConversion<string>();
            e.HasIndex(d => d.TechnicalName)
                .IsUnique()
                .HasFilter("kind = 'Snippet'")
                .HasDatabaseName("ix_documents_snippets_by_technical_name");
            e.HasIndex(d => d.Words).HasMethod("gin").HasOperators("gin_trgm_ops");
            // Counting emails by where they stand looks at this alone, never at the documents.
            e.HasIndex(d => d.Id, "emails")
                .HasFilter("kind = 'Email'")
                .IncludeProperties(d => new { d.CampaignType, d.State })
                .HasDatabaseName("ix_documents_emails");
            e.HasIndex(d => d.Id, "references_unknown")
                .HasFilter("not references_known")
                .HasDatabaseName("ix_documents_references_unknown");
            // One for each way that the list of emails is narrowed; what else it is narrowed by is looked at within the index.
            Emails(
                    d => new
                    {
                        d.Retired,
                        d.CreatedBy,
                        d.ChangedAt,
                        d.Id,
                    },
                    "ix_documents_emails_by_author"
                )
                .IncludeProperties(d => new { d.CampaignType, d.State });
            Emails(
                    d => new
                    {
                        d.Retired,
                        d.CampaignType,
                        d.ChangedAt,
                        d.Id,
                    },
                    "ix_documents_emails_by_type"
                )
                .IncludeProperties(d => new { d.CreatedBy, d.State });
            Emails(
                    d => new
                    {
                        d.Retired,
                        d.State,
                        d.ChangedAt,
                        d.Id,
                    },
                    "ix_documents_emails_by_state"
                )
                .IncludeProperties(d => new { d.CreatedBy, d.CampaignType });
            IndexBuilder<StoredDocument> Emails(Expression<Func<StoredDocument, object?>> columns, string name) =>
                e.HasIndex(columns, name).HasFilter("kind = 'Email'").IsDescending(false, false, true, true).HasDatabaseName(name);
            e.HasMany(d => d.References).WithOne().HasForeignKey(r => r.DocumentId).OnDelete(DeleteBehavior.Cascade);
            e.Property(d => d.Origin).HasColumnType("jsonb");
            e.Property(d => d.Head).HasColumnType("jsonb");
            // Lists are paged by key: the newest change first, the id to tell equals apart.
            e.HasIndex(d => new
                {
                    d.Kind,
                    d.ChangedAt,
                    d.Id,
                })
                .IsDescending(false, true, true);
        });

        builder.Entity<StoredSession>(e =>
        {
            e.ToTable("sessions");
            e.HasIndex(s => s.ExpiresAt);
            e.HasOne<Account>().WithMany().HasForeignKey(s => s.PersonId).OnDelete(DeleteBehavior.Cascade);
        });

        builder.Entity<StoredWords>(e =>
        {
            e.ToTable("email_words");
            e.HasKey(w => w.DocumentId);
            e.Property(w => w.Search).HasComputedColumnSql("to_tsvector(search_config(language), words)", stored: true);
            e.HasIndex(w => w.Search).HasMethod("gin");
            // Which languages there are is asked with every search.
            e.HasIndex(w => w.Language);
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(w => w.DocumentId).OnDelete(DeleteBehavior.Cascade);
        });

        builder.Entity<EmailBehind>(e =>
        {
            e.ToTable("emails_behind");
            e.HasKey(b => b.DocumentId);
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(b => b.DocumentId).OnDelete(DeleteBehavior.Cascade);
        });

        builder.Entity<StoredReference>(e =>
        {
            e.ToTable("document_references");
            e.HasKey(r => new
            {
                r.DocumentId,
                r.Release,
                r.Kind,
                r.Key,
                r.TargetRelease,
                r.Place,
            });
            e.Property(r => r.Kind).HasConversion<string>();
            // Who refers to something is asked by what it is; whose references they are comes along without a look at the table.
            e.HasIndex(r => new
            {
                r.Kind,
                r.Key,
                r.TargetRelease,
                r.Release,
                r.DocumentId,
            });
        });

        builder.Entity<StoredEdit>(e =>
        {
            e.ToTable("edits");
            e.HasKey(x => new { x.DocumentId, x.Sequence });
            e.HasIndex(x => new { x.DocumentId, x.Id }).IsUnique();
            // What undo takes back.
            e.HasIndex(x => new { x.DocumentId, x.Step });
            e.Property(x => x.Body).HasColumnType("jsonb");
            e.Property(x => x.Inverse).HasColumnType("jsonb");
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(x => x.DocumentId).OnDelete(DeleteBehavior.Restrict);
        });

        builder.Entity<StoredSnapshot>(e =>
        {
            e.ToTable("document_snapshots");
            e.HasKey(s => new { s.DocumentId, s.Sequence });
            e.Property(s => s.Body).HasColumnType("jsonb");
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(s => s.DocumentId).OnDelete(DeleteBehavior.Cascade);
        });

        builder.Entity<StoredRelease>(e =>
        {
            e.ToTable("releases");
            e.HasKey(x => new { x.DocumentId, x.Number });
            e.Property(x => x.Kind).HasConversion<string>();
            e.Property(x => x.Body).HasColumnType("jsonb");
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(x => x.DocumentId).OnDelete(DeleteBehavior.Restrict);
        });

        builder.HasPostgresExtension("pg_trgm");
        builder.Entity<StoredPicture>(e =>
        {
            e.ToTable("pictures");
            e.Property(p => p.Smaller)
                .HasColumnType("jsonb")
                .HasConversion(v => DocumentJson.Write(v), v => DocumentJson.Read<List<PictureFile>>(v));
            e.Property(p => p.PhoneCrop)
                .HasColumnType("jsonb")
                .HasConversion(v => DocumentJson.Write(v), v => DocumentJson.Read<PictureFile>(v!));
            e.HasIndex(p => p.Words).HasMethod("gin").HasOperators("gin_trgm_ops");
            e.HasIndex(p => p.Tags).HasMethod("gin");
            e.HasIndex(p => new { p.AddedAt, p.Id }).IsDescending(true, true);
            e.HasOne<StoredPicture>().WithMany().HasForeignKey(p => p.ReplacedBy).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<StoredPictureFile>(e =>
        {
            e.ToTable("picture_files");
            e.HasKey(f => f.Name);
        });
        builder.Entity<StoredThumbnail>(e =>
        {
            e.ToTable("thumbnails");
            e.HasIndex(t => t.MadeAt);
        });
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
        builder.MapSending();
        builder.Entity<PlannedRelease>(e =>
        {
            e.ToTable("planned_releases");
            e.HasKey(p => p.DocumentId);
            e.Property(p => p.Kind).HasConversion<string>();
            e.HasIndex(p => p.At).HasFilter("problem = ''");
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(p => p.DocumentId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<StoredNotice>(e =>
        {
            e.ToTable("notices");
            e.HasKey(n => new { n.PersonId, n.Key });
            e.HasOne<Account>().WithMany().HasForeignKey(n => n.PersonId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<KnownBrowser>(e =>
        {
            e.ToTable("known_browsers");
            e.HasKey(b => new { b.Browser, b.PersonId });
            e.HasOne<Account>().WithMany().HasForeignKey(b => b.PersonId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<OutgoingMail>(e =>
        {
            e.ToTable("outgoing_mails");
            e.HasIndex(m => m.NextTry).HasFilter("next_try is not null");
            e.HasIndex(m => new { m.AccountId, m.AskedAt });
            e.HasOne<Account>().WithMany().HasForeignKey(m => m.AccountId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<Organisation>(e =>
        {
            e.ToTable("organisations");
            e.Property(o => o.Id).ValueGeneratedNever();
            e.HasData(new Organisation());
        });
        builder.Entity<LogEntry>(e =>
        {
            e.ToTable("log_entries");
            e.HasKey(l => l.Sequence);
            e.Property(l => l.Kind).HasConversion<string>();
            e.Property(l => l.Before).HasColumnType("jsonb");
            e.Property(l => l.After).HasColumnType("jsonb");
            e.HasIndex(l => l.At);
            e.HasIndex(l => new { l.Kind, l.Sequence }).IsDescending(false, true);
            e.HasIndex(l => new { l.PersonId, l.Sequence }).IsDescending(false, true);
        });
        builder.Entity<LogSetting>(e =>
        {
            e.ToTable("log_settings");
            e.Property(s => s.Id).ValueGeneratedNever();
            e.HasData(new LogSetting());
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
        builder.Entity<StoredReader>(e =>
        {
            e.ToTable("sample_readers");
            e.Property(r => r.Values)
                .HasColumnType("jsonb")
                .HasConversion(v => DocumentJson.Write(v), v => DocumentJson.Read<Dictionary<string, string>>(v));
            e.HasIndex(r => new { r.Position, r.Id });
        });
        builder.Entity<StoredFile>(e =>
        {
            e.ToTable("files");
            e.HasIndex(f => new { f.AddedAt, f.Id }).IsDescending(true, true);
        });
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
        builder.Entity<LibraryPart>(e =>
        {
            e.ToTable("library_parts");
            e.HasKey(p => p.Name);
        });
        builder.Entity<LibraryStamp>(e =>
        {
            e.ToTable("library_stamp");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.HasData(new LibraryStamp { Id = 1, Version = 1 });
        });
    }
}

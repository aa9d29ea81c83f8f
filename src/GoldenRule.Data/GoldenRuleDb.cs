using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;

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
        builder.MapPeople();
        builder.MapPlan();
        builder.MapDocuments();
        builder.MapLibrary();
        builder.MapPictures();
        builder.MapReviews();
        builder.MapTestSends();
        builder.MapHandOffs();
        builder.MapSending();
        builder.MapJobs();
        builder.MapLog();
    }
}

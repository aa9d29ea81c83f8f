using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;

namespace GoldenRule.Core.HandOffs;

/// <summary>What a file of a hand-off is.</summary>
public enum HandOffFileKind
{
    /// <summary>The email's HTML as a sending platform takes it.</summary>
    Html,
    Text,

    /// <summary>A message file (RFC 5322).</summary>
    Message,

    /// <summary>Fields and conditions as tables.</summary>
    Table,
    Picture,

    /// <summary>A file that goes out with the email.</summary>
    Attachment,

    /// <summary>The email as parts that are filled in for each reader.</summary>
    Merge,

    /// <summary>The email as it is seen, to be compared with others.</summary>
    Seen,

    /// <summary>The approval sheet, as a page to print.</summary>
    ApprovalSheet,
}

/// <summary>A file of a hand-off.</summary>
/// <param name="Name">Within the hand-off, with folders: "mustache/index.html".</param>
/// <param name="Profile">Key of the export profile that it is written in; empty: none.</param>
/// <param name="Sha256">Of its bytes, in lower-case hexadecimal.</param>
public sealed record HandOffFile(string Name, HandOffFileKind Kind, string Profile, string MediaType, long Bytes, string Sha256);

/// <summary>A brand variable with what it came to.</summary>
public sealed record HandOffVariable(string Key, string Name, string Value);

/// <summary>A finding that was there.</summary>
/// <param name="Where">The row's name; empty: the whole email.</param>
/// <param name="Answer">Why it stays, where somebody said so.</param>
public sealed record HandOffFinding(Severity Severity, string Message, string Where, string Answer);

/// <param name="Approval">As the rule calls it: "Legal".</param>
/// <param name="Sha256">Of what was seen, see <see cref="SeenEmail.Hash"/>.</param>
public sealed record HandOffApproval(string Approval, Guid Person, string Name, DateTime At, string Sha256);

/// <param name="Key">Technical name.</param>
public sealed record HandOffProfile(string Key, string Name);

/// <summary>
/// Everything about an email that was handed off: what it was made from, who approved it, and each file with its hash. It is written
/// once and never changes; whatever is said of it later, such as that it was withdrawn, stands beside it.
/// </summary>
/// <param name="Format">1.</param>
/// <param name="Number">From 1 within the email.</param>
/// <param name="Revision">Of the email.</param>
/// <param name="Seen">SHA-256 of what was approved, see <see cref="SeenEmail.Hash"/>.</param>
/// <param name="Corrects">The hand-off of the same email that this one takes the place of. Null: it is the first.</param>
/// <param name="Details">What the inbox shows, fields as the profile writes them.</param>
/// <param name="PageAddress">Of the page for browsers.</param>
/// <param name="Profile">The export profile that it is handed off in.</param>
/// <param name="Profiles">All that it is written in; the chosen one among them.</param>
/// <param name="Versions">House styles, template, rows and snippets as they were.</param>
/// <param name="Fields">Of readers, that it asks for.</param>
/// <param name="To">Whom it is written to. Null: many readers.</param>
public sealed record HandOffRecord(
    int Format,
    Guid Id,
    int Number,
    Guid Email,
    string Name,
    string CampaignType,
    string CampaignTypeName,
    long Revision,
    string Seen,
    DateTime At,
    Guid By,
    string ByName,
    string Note,
    Guid? Corrects,
    string Language,
    EmailDetails Details,
    string PageAddress,
    string Profile,
    ImmutableArray<HandOffProfile> Profiles,
    ImmutableArray<HandOffApproval> Approvals,
    ImmutableArray<SeenVersion> Versions,
    ImmutableArray<HandOffVariable> Variables,
    ImmutableArray<MergeField> Fields,
    ImmutableArray<HandOffFinding> Findings,
    ImmutableArray<HandOffFile> Files,
    Recipient? To = null
)
{
    public const int CurrentFormat = 1;

    /// <summary>As it is stored: the same record gives the same characters.</summary>
    public string Write() => DocumentJson.Write(this);

    public static HandOffRecord Read(string json) => DocumentJson.Read<HandOffRecord>(json);

    /// <summary>SHA-256 of a record as it is stored, in lower-case hexadecimal.</summary>
    public static string SealOf(string json) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(json)));

    /// <summary>The file of that kind. Null: there is none.</summary>
    /// <param name="profile">Empty: of files that are written in none.</param>
    public HandOffFile? Find(HandOffFileKind kind, string profile = "") =>
        Files.FirstOrDefault(f => f.Kind == kind && f.Profile == profile);
}

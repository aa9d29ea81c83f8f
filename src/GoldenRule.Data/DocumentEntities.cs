using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Releases;
using NpgsqlTypes;

namespace GoldenRule.Data;

/// <summary>The sorts of document that are stored; each has its own type in the core.</summary>
public enum DocumentKind
{
    Email,
    Template,
    Row,
    HouseStyle,
    Snippet,

    /// <summary>What the lead says about readers; there is one, made by a migration.</summary>
    Audiences,
}

/// <summary>A document: what it began as and what it is now. Between the two stand its edits.</summary>
public sealed class StoredDocument
{
    public required Guid Id { get; init; }

    public required DocumentKind Kind { get; init; }

    public required string Name { get; set; }

    /// <summary>Key of the campaign type; null for rows and house styles.</summary>
    public string? CampaignType { get; set; }

    /// <summary>For emails only.</summary>
    public EmailState State { get; set; }

    /// <summary>Who answers for a template or saved row, and who alone sees a private one beside the leads.</summary>
    public required Guid Owner { get; set; }

    /// <summary>A template or saved row that only its owner and the leads see.</summary>
    public bool Private { get; set; }

    /// <summary>A template or saved row that is not offered any more, what uses it goes on using it; an email that is archived.</summary>
    public bool Retired { get; set; }

    /// <summary>What takes the place of a retired template or saved row. Null: nothing is named.</summary>
    public Guid? Heir { get; set; }

    /// <summary>Kind of a saved row; null for all else.</summary>
    public string? RowKind { get; set; }

    /// <summary>Of a snippet; null for all else. No other snippet has the same.</summary>
    public string? TechnicalName { get; set; }

    /// <summary>Keys of the campaign types that a saved row serves, or that may use a snippet; none: all.</summary>
    public List<string> Serves { get; set; } = [];

    /// <summary>
    /// What search looks through: name, description and tags, lower case. The words inside emails: see <see cref="StoredWords"/>.
    /// </summary>
    public string Words { get; set; } = "";

    /// <summary>False: stored before there was a table of references, and not read for it yet.</summary>
    public bool ReferencesKnown { get; set; }

    /// <summary>What it and its releases refer to; never loaded with it.</summary>
    public List<StoredReference> References { get; } = [];

    /// <summary>JSON of the document before its first edit. Never changes.</summary>
    public required string Origin { get; init; }

    /// <summary>JSON of the document now: the origin with every edit applied.</summary>
    public required string Head { get; set; }

    /// <summary>Sequence number of the last edit; 0 where there is none.</summary>
    public long Revision { get; set; }

    public required Guid CreatedBy { get; init; }

    public required DateTime CreatedAt { get; init; }

    public required DateTime ChangedAt { get; set; }

    /// <summary>What a document that is stored for the first time refers to.</summary>
    public void AddReferences(Document document)
    {
        References.AddRange(StoredReference.Find(Id, StoredReference.OfHead, document));
        ReferencesKnown = true;
    }

    /// <summary>Brings what lists show and search up to the document.</summary>
    public void UpdateIndexColumns(Document document)
    {
        Name = document.Name;
        (var description, var tags) = document switch
        {
            SavedRow row => (row.Description, row.Tags),
            Template template => (template.Description, template.Tags),
            Snippet snippet => (snippet.Description, [snippet.Key]),
            _ => ("", []),
        };
        Words = string.Join(' ', tags.Prepend(description).Prepend(document.Name).Where(part => part.Length > 0)).ToLowerInvariant();
        if (document is SavedRow saved)
        {
            RowKind = saved.RowKind;
            Serves = [.. saved.CampaignTypes];
        }

        if (document is Snippet kept)
        {
            TechnicalName = kept.Key;
            Serves = [.. kept.CampaignTypes];
        }

        CampaignType = document is Template { CampaignType: var type } ? type : CampaignType;
    }
}

/// <summary>The words inside an email. Apart from the document, which changes with every key.</summary>
public sealed class StoredWords
{
    public required Guid DocumentId { get; init; }

    public required string Words { get; set; }

    /// <summary>BCP 47 tag that the words are searched in.</summary>
    public required string Language { get; set; }

    /// <summary>The words by their stems; the database makes it.</summary>
    public NpgsqlTsVector Search { get; private set; } = null!;
}

/// <summary>
/// An email that was edited since its words were taken. A trigger writes it with every edit: apart from the document, whose row
/// whoever types in it holds.
/// </summary>
public sealed class EmailBehind
{
    public required Guid DocumentId { get; init; }

    /// <summary>The email's with its last edit.</summary>
    public required long Revision { get; init; }

    /// <summary>When that was, by the database's clock.</summary>
    public required DateTime Since { get; init; }
}

/// <summary>One place of a document's head or of a release that refers to something; see the core's References.</summary>
public sealed class StoredReference
{
    /// <summary>The release number of what is no release.</summary>
    public const int OfHead = 0;

    public required Guid DocumentId { get; init; }

    /// <summary>Number of the release that says it; <see cref="OfHead"/>: the document as it stands.</summary>
    public required int Release { get; init; }

    public required ReferenceKind Kind { get; init; }

    public required string Key { get; init; }

    /// <summary>Number of the release that is referred to; 0: none in particular.</summary>
    public required int TargetRelease { get; init; }

    public required string Place { get; init; }

    /// <summary>Everything that a document or a release of it refers to.</summary>
    public static IEnumerable<StoredReference> Find(Guid id, int release, Document document) =>
        References
            .Find(document)
            .Select(r => new StoredReference
            {
                DocumentId = id,
                Release = release,
                Kind = r.Kind,
                Key = r.Key,
                TargetRelease = r.Release,
                Place = r.Place,
            });
}

/// <summary>An edit as it was made. Append-only: the database refuses to change or delete it.</summary>
public sealed class StoredEdit
{
    public required Guid DocumentId { get; init; }

    /// <summary>From 1, without gaps, within the document.</summary>
    public required long Sequence { get; init; }

    /// <summary>Given by the client, so that an edit sent twice is stored once.</summary>
    public required Guid Id { get; init; }

    public required Guid AuthorId { get; init; }

    public required DateTime At { get; init; }

    /// <summary>Edits of one step are undone together.</summary>
    public required Guid Step { get; init; }

    /// <summary>The step taken back by this one.</summary>
    public Guid? Undoes { get; init; }

    /// <summary>What it sets; see Edit.Target.</summary>
    public string? Target { get; init; }

    public required string Body { get; init; }

    public required string Inverse { get; init; }
}

/// <summary>
/// A document as it stood after an edit, so that a former moment is not replayed from the beginning. Can be made anew from the
/// edits at any time.
/// </summary>
public sealed class StoredSnapshot
{
    /// <summary>A history has one at least every so many edits.</summary>
    public const int Every = 256;

    public required Guid DocumentId { get; init; }

    /// <summary>Of the last edit that it holds.</summary>
    public required long Sequence { get; init; }

    public required string Body { get; init; }
}

/// <summary>A numbered version of a master. The database refuses to change or delete it.</summary>
public sealed class StoredRelease
{
    public required Guid DocumentId { get; init; }

    /// <summary>From 1 within the document.</summary>
    public required int Number { get; init; }

    public required DocumentKind Kind { get; init; }

    /// <summary>Revision of the draft it was made from.</summary>
    public required long Revision { get; init; }

    public required string Body { get; init; }

    public required string Note { get; init; }

    /// <summary>What is made from an older one must take it before hand-off.</summary>
    public bool Required { get; init; }

    public required Guid AuthorId { get; init; }

    public required DateTime At { get; init; }
}

/// <summary>A release of a template or saved row that is to be made at a moment. One is planned at a time.</summary>
public sealed class PlannedRelease
{
    public required Guid DocumentId { get; init; }

    public required DocumentKind Kind { get; init; }

    public required Guid PlannedBy { get; set; }

    /// <summary>Of the draft as it was planned: another one is not released.</summary>
    public required long Revision { get; set; }

    public required string Note { get; set; }

    public bool Required { get; set; }

    public required DateTime At { get; set; }

    /// <summary>Why it was not made when its moment came, in a sentence; empty: it has not come.</summary>
    public string Problem { get; set; } = "";
}

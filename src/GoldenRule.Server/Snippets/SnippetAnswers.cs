using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;

namespace GoldenRule.Server.Snippets;

/// <summary>A snippet as lists show it.</summary>
/// <param name="Words">What it says now, in one line; of a picture: its id.</param>
/// <param name="NextFrom">Local moment from which on it says something else; null: nothing else is planned.</param>
/// <param name="Expires">Local moment; empty: it does not.</param>
/// <param name="Places">How many documents it stands in.</param>
public sealed record SnippetEntry(
    Guid Id,
    string Key,
    string Name,
    SnippetType Type,
    string Description,
    ImmutableArray<string> CampaignTypes,
    string Words,
    string? NextFrom,
    string Expires,
    bool Expired,
    bool Retired,
    int Places
);

/// <summary>A draft that a snippet stands in, with the day it goes out.</summary>
/// <param name="AfterExpiry">The snippet has expired by then.</param>
public sealed record SnippetGoingOut(Guid Id, string Name, string Day, bool AfterExpiry);

public sealed record SnippetChange(DateTime At, string Author, string What);

/// <summary>A snippet with its schedule, and what the asker may do.</summary>
/// <param name="Holds">Place of the value that holds now.</param>
/// <param name="Now">Local date and time in its zone.</param>
/// <param name="Change">Whether the asker may say what it says.</param>
/// <param name="Govern">Whether they may say who uses and changes it.</param>
/// <param name="GoingOut">The next drafts that it stands in and that have a day.</param>
/// <param name="History">What was done last, the newest first.</param>
public sealed record SnippetAnswer(
    Guid Id,
    long Revision,
    DateTime KeptAt,
    Snippet Snippet,
    bool Retired,
    int Holds,
    string Now,
    bool Expired,
    Allowance Change,
    Allowance Govern,
    ImmutableArray<SnippetGoingOut> GoingOut,
    ImmutableArray<SnippetChange> History,
    bool CanUndo,
    bool CanRedo
);

/// <param name="Key">Technical name; it stays for ever.</param>
public sealed record NewSnippet(Guid Id, string Key, string Name, SnippetType Type, string Description, FieldValue? Value = null);

/// <param name="Retired">It is not offered any more; where it stands it goes on.</param>
public sealed record SnippetStatus(bool Retired);

/// <summary>What can be put into words: a snippet or a field.</summary>
/// <param name="Type">Of the snippet or the field.</param>
/// <param name="Words">What it comes to, in one line.</param>
/// <param name="Value">Of a snippet that is a link or a picture: the address or the picture's id.</param>
/// <param name="WhyNot">Why it is not offered here. Null: it is.</param>
public sealed record NodeOffer(
    InlineKind Kind,
    string Key,
    string Name,
    string Type,
    string Description,
    string Words,
    string? Value,
    string? WhyNot
);

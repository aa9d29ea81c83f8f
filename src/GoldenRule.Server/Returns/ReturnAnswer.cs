using System.Collections.Immutable;
using GoldenRule.Core.Sending;

namespace GoldenRule.Server.Returns;

/// <summary>What came back, counted; nobody is named.</summary>
/// <param name="Clicked">By readers.</param>
/// <param name="Scanned">Clicks of programs that look for malware, as well as that can be told.</param>
public sealed record ReturnCounts(int Sent, int Bounced, int Opened, int Clicked, int Scanned, int Unsubscribed);

/// <param name="Share">Of all clicks of readers, 0 to 1.</param>
public sealed record LinkClicks(PlacedLink Link, int Clicked, int Scanned, double Share);

/// <summary>What came back of one hand-off.</summary>
/// <param name="Links">All it has, those clicked most first.</param>
/// <param name="Elsewhere">Clicks of links that it does not have.</param>
public sealed record ReturnAnswer(ReturnCounts Counts, ImmutableArray<LinkClicks> Links, int Elsewhere);

public enum ReturnBy
{
    Row,
    Template,
    CampaignType,
    Month,
}

/// <summary>What came back of everything that has something in common.</summary>
/// <param name="HandOffs">How many there are of it.</param>
public sealed record ReturnGroup(string Key, string Name, int HandOffs, ReturnCounts Counts);

/// <param name="Taken">Events that were counted now; others were told before.</param>
public sealed record EventsTaken(int Taken, int Known);

/// <param name="Events">At most 1,000.</param>
public sealed record EventsRequest(ImmutableArray<ReaderEvent> Events);

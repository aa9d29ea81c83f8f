using System.Collections.Immutable;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Emails;

namespace GoldenRule.Server.Destinations;

/// <summary>A sort of destination, and what it asks for.</summary>
/// <param name="AddressExample">Empty: it has no address.</param>
/// <param name="NeedsAddress">False: it may be left out.</param>
/// <param name="SecretName">Empty: it has no secret.</param>
public sealed record DestinationKindEntry(
    string Name,
    string Title,
    string Explained,
    ImmutableArray<PicturePolicy> Pictures,
    string AddressExample,
    bool NeedsAddress,
    bool HasUser,
    string SecretName,
    bool TakesPushes,
    bool SendsInBatches,
    bool HasLists
);

/// <param name="HasSecret">It has one; it is never shown.</param>
/// <param name="TriedAt">Null: it was never tried.</param>
/// <param name="Version">Another one after each change; empty for whoever may not change it.</param>
public sealed record DestinationEntry(
    Guid Id,
    string Name,
    string Kind,
    string KindTitle,
    string Profile,
    PicturePolicy Pictures,
    string Address,
    string User,
    bool HasSecret,
    bool TakesPushes,
    bool SendsInBatches,
    bool HasLists,
    DateTime? TriedAt,
    bool Works,
    string TriedAnswer,
    string Version
);

/// <summary>All destinations, and what there is to set one up.</summary>
public sealed record DestinationList(
    ImmutableArray<DestinationEntry> All,
    ImmutableArray<DestinationKindEntry> Kinds,
    ImmutableArray<ProfileChoice> Profiles,
    Allowance SetUp
);

/// <param name="Id">UUIDv7 made by the client: asked twice, it is one destination.</param>
/// <param name="Secret">Null: the one that is stored stays.</param>
/// <param name="Version">The one that was looked at; changed meanwhile, it is refused. Null: whatever it is now.</param>
public sealed record DestinationRequest(
    Guid Id,
    string Name,
    string Kind,
    string Profile = "mustache",
    PicturePolicy? Pictures = null,
    string Address = "",
    string User = "",
    string? Secret = null,
    string? Version = null
);

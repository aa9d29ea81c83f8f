using Microsoft.AspNetCore.Identity;

namespace GoldenRule.Data;

/// <summary>Someone who signs in, or is invited to.</summary>
public sealed class Account : IdentityUser<Guid>
{
    public required string Name { get; set; }

    /// <summary>When the last invitation was sent; null: they were not invited, they were there from the start.</summary>
    public DateTime? InvitedAt { get; set; }

    /// <summary>When they first could sign in; null: they have not accepted the invitation yet.</summary>
    public DateTime? JoinedAt { get; set; }

    /// <summary>Since when they cannot sign in any more; null: they can.</summary>
    public DateTime? DeactivatedAt { get; set; }

    /// <summary>Of the last code of their authenticator app that was used: none opens twice.</summary>
    public long? LastCodeStep { get; set; }

    /// <summary>When their name and address were removed; null: they are there.</summary>
    public DateTime? ErasedAt { get; set; }

    /// <summary>JSON: of what they are told, by the kind of notice; what is not in it is told everywhere.</summary>
    public Dictionary<string, NoticeChoice> NoticeChoices { get; set; } = [];

    /// <summary>When notices were mailed to them last; null: never.</summary>
    public DateTime? NoticesMailedAt { get; set; }
}

/// <summary>Where somebody wants to be told of one kind of thing that waits for them.</summary>
public sealed record NoticeChoice(bool InApplication = true, bool ByMail = true);

/// <summary>That somebody was told of something that waits for them; gone once it does not wait any more.</summary>
public sealed class StoredNotice
{
    public required Guid PersonId { get; init; }

    /// <summary>What it is about, see the server's WaitEntry.</summary>
    public required string Key { get; init; }

    public required DateTime Since { get; init; }

    /// <summary>Null: not by mail.</summary>
    public DateTime? MailedAt { get; set; }

    /// <summary>When they said that they know. Null: they did not.</summary>
    public DateTime? NotedAt { get; set; }
}

/// <summary>A browser that somebody signed in with, by a hash of what its cookie says.</summary>
public sealed class KnownBrowser
{
    public required string Browser { get; init; }

    public required Guid PersonId { get; init; }

    public required DateTime SeenAt { get; set; }
}

/// <summary>Someone signed in somewhere. The cookie holds a key, and this only what that key hashes to.</summary>
public sealed class StoredSession
{
    public required string Id { get; set; }

    public required Guid PersonId { get; set; }

    public required byte[] Ticket { get; set; }

    public required DateTime BegunAt { get; set; }

    public required DateTime ExpiresAt { get; set; }

    /// <summary>When it was last used, within a few minutes.</summary>
    public DateTime SeenAt { get; set; }

    /// <summary>What the browser calls itself, cut to 200 characters; so that its owner knows it again.</summary>
    public string Browser { get; set; } = "";
}

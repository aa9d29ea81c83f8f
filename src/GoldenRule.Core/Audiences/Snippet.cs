using System.Collections.Immutable;
using System.Globalization;
using GoldenRule.Core.Documents;
using NodaTime;

namespace GoldenRule.Core.Audiences;

public enum SnippetType
{
    /// <summary>One paragraph with emphasis and links.</summary>
    Text,
    Link,

    /// <summary>A day, with or without a time.</summary>
    Date,
    Number,

    /// <summary>A picture of the library.</summary>
    Picture,
}

/// <summary>Who may say what a snippet says, beside the leads.</summary>
public sealed record SnippetEditors
{
    public ImmutableArray<Role> Roles { get; init; } = [];

    public ImmutableArray<Guid> People { get; init; } = [];

    public Lock AsLock() => new Lock.Reserved { Roles = [Role.Lead, .. Roles], People = People };
}

/// <summary>What a snippet says from a moment on.</summary>
/// <param name="From">Local date and time in the snippet's zone, "2026-11-30T00:00"; empty: from the beginning.</param>
public sealed record ScheduledValue(string Id, string From, FieldValue Value);

/// <summary>
/// A small value that recurs in many emails: said once, and every email that is not handed off shows what it says. It may have
/// a schedule.
/// </summary>
public sealed record Snippet : Document
{
    /// <summary>How local moments are written.</summary>
    public const string MomentForm = "yyyy-MM-dd'T'HH:mm";

    public const string UsualZone = "Europe/London";

    /// <summary>Technical name, by which texts refer to it. Never changes.</summary>
    public required string Key { get; init; }

    public required SnippetType Type { get; init; }

    public string Description { get; init; } = "";

    /// <summary>Keys of the campaign types that may use it; none: all.</summary>
    public ImmutableArray<string> CampaignTypes { get; init; } = [];

    /// <summary>Who may change it beside the leads.</summary>
    public SnippetEditors Editors { get; init; } = new() { Roles = [Role.Designer] };

    /// <summary>IANA time zone of its moments.</summary>
    public string Zone { get; init; } = UsualZone;

    /// <summary>In the order they hold, the first from the beginning; each until the next.</summary>
    public ImmutableArray<ScheduledValue> Values { get; init; } = [];

    /// <summary>From this moment on it says nothing any more, written like the others; empty: it never expires.</summary>
    public string Expires { get; init; } = "";

    /// <summary>Key of the snippet that is used in its place. Null: it stands for itself.</summary>
    public string? ReplacedBy { get; init; }

    public static DateTime? Moment(string local) =>
        DateTime.TryParseExact(local, MomentForm, CultureInfo.InvariantCulture, DateTimeStyles.None, out var at) ? at : null;

    /// <summary>The same moment everywhere on earth. Where clocks are put forward and it does not exist: as far after.</summary>
    public DateTime ToUtc(string local) =>
        Moment(local) is { } at
            ? DateTimeZoneProviders.Tzdb[Zone].AtLeniently(LocalDateTime.FromDateTime(at)).ToDateTimeUtc()
            : throw new StructureException($"\"{local}\" is no moment; write it like 2026-11-30T09:00.");

    /// <summary>The place in <see cref="Values"/> of what it says at a moment.</summary>
    public int IndexAt(DateTime utc)
    {
        var at = 0;
        for (var i = 1; i < Values.Length && ToUtc(Values[i].From) <= utc; i++)
        {
            at = i;
        }

        return at;
    }

    public bool HasExpired(DateTime utc) => Expires.Length > 0 && ToUtc(Expires) <= utc;

    /// <summary>The place in <see cref="Values"/> of the value of that id.</summary>
    public int Require(string id)
    {
        for (var i = 0; i < Values.Length; i++)
        {
            if (Values[i].Id == id)
            {
                return i;
            }
        }

        throw new StructureException("That value is not in the schedule; it may have been removed.", $"values/{id}");
    }

    /// <summary>The same with these values, in the order they hold. What is no moment stays where it is, and is refused later.</summary>
    public Snippet InOrder(ImmutableArray<ScheduledValue> values) =>
        this with
        {
            Values = values.Any(v => v.From.Length > 0 && Moment(v.From) is null)
                ? values
                : [.. values.OrderBy(v => v.From.Length == 0 ? DateTime.MinValue : ToUtc(v.From))],
        };

    /// <summary>A value that says nothing yet.</summary>
    public static FieldValue Empty(SnippetType type) =>
        type switch
        {
            SnippetType.Text => new FieldValue.Prose(RichText.FromParagraphs("")),
            SnippetType.Link => new FieldValue.Link(""),
            SnippetType.Date => new FieldValue.Moment("", "", UsualZone),
            SnippetType.Number => new FieldValue.Words(""),
            SnippetType.Picture => new FieldValue.Image(""),
            _ => throw new ArgumentOutOfRangeException(nameof(type)),
        };
}

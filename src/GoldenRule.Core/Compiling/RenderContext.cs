using System.Collections.Immutable;
using System.Globalization;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Languages;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>What an email is compiled for.</summary>
public enum Purpose
{
    /// <summary>To be looked at while it is made: rows and pieces carry their ids.</summary>
    Proof,

    /// <summary>To be sent: nothing but the email.</summary>
    Sending,
}

/// <summary>What stays the same from row to row while an email is compiled.</summary>
/// <param name="PicturesAt">Address that picture files stand under, with its closing slash.</param>
/// <param name="Language">BCP 47 tag; dates are written in it.</param>
/// <param name="SendDay">The day it goes out. Null: not settled yet.</param>
/// <param name="PageAt">Address of the same email as a web page; empty: it has none.</param>
public sealed record RenderContext(
    Theme Theme,
    PictureCatalog Pictures,
    string PicturesAt,
    Purpose Purpose,
    string Language,
    DateOnly? SendDay,
    string PageAt
)
{
    /// <summary>What a contents list shows: every heading and card marked for it.</summary>
    public ImmutableArray<ContentsEntry> Contents { get; init; } = [];

    /// <summary>The address of pictures as it is written.</summary>
    internal byte[] PicturesAtHtml { get; } = new HtmlWriter(PicturesAt.Length).Text(PicturesAt).ToArray();

    /// <summary>Which way its language runs.</summary>
    public Direction Direction { get; } = Writing.ForLanguage(Language).Direction;

    /// <summary>Whether rows and pieces carry their ids.</summary>
    public bool Marks => Purpose == Purpose.Proof;

    public static RenderContext For(ResolvedEmail email, string picturesAt, Purpose purpose, string pageAt = "") =>
        new(
            Theme.ForStyle(email.Style),
            email.Pictures,
            picturesAt,
            purpose,
            email.Email.Language,
            DayOf(email.Email.Details.SendDay),
            pageAt
        );

    /// <summary>A day as details have it. Null: it is none, or not settled.</summary>
    public static DateOnly? DayOf(string text) =>
        DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day : null;

    /// <summary>Whether rows written with the other are still right, contents lists aside.</summary>
    public bool WritesLike(RenderContext other) =>
        ReferenceEquals(Theme, other.Theme)
        && ReferenceEquals(Pictures, other.Pictures)
        && (PicturesAt, Purpose, Language, SendDay, PageAt)
            == (other.PicturesAt, other.Purpose, other.Language, other.SendDay, other.PageAt);

    /// <summary>The email's theme, or that of a row which narrows the house style for itself.</summary>
    public Theme ThemeOf(ResolvedRow row) => ReferenceEquals(row.Style, Theme.Style) ? Theme : Theme.ForStyle(row.Style);

    /// <param name="row">The row the block stands in: its theme holds.</param>
    public BlockView View(ResolvedRow row, ResolvedBlock block, int width)
    {
        var theme = ThemeOf(row);
        return new BlockView(block, row, theme, theme[row.Surface], width, this);
    }
}

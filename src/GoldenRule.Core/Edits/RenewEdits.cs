using GoldenRule.Core.Documents;
using GoldenRule.Core.Languages;

namespace GoldenRule.Core.Edits;

/// <summary>Says that what is left from the email before still holds, or that it does not.</summary>
/// <param name="Place">As <see cref="Edit.Target"/> of the edit that would write there.</param>
public sealed record ConfirmUnchanged(string Place, bool Right) : Edit
{
    public override string Target => $"{Place}/still-right";

    public override Document Apply(Document document)
    {
        var email = Expect<Email>(document);
        return email with { ConfirmedUnchanged = Right ? email.ConfirmedUnchanged.Add(Place) : email.ConfirmedUnchanged.Remove(Place) };
    }

    public override Edit Invert(Document before) => this with { Right = Expect<Email>(before).ConfirmedUnchanged.Contains(Place) };
}

/// <summary>Sets the language an email is written in.</summary>
/// <param name="Language">BCP 47 tag, "en-GB" for example.</param>
public sealed record SetLanguage(string Language) : Edit
{
    public override string Target => "details/language";

    public override Document Apply(Document document) =>
        LanguageTags.IsTag(Language)
            ? Expect<Email>(document) with
            {
                Language = Language,
            }
            : throw new StructureException($"\"{Language}\" is no language tag; write it as in en-GB or cy.", "details/language");

    public override Edit Invert(Document before) => new SetLanguage(Expect<Email>(before).Language);
}

using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>Writes an email's plain text by hand, or has it made from the email again.</summary>
/// <param name="Value">Null: it is made from the email.</param>
public sealed record SetPlainText(WrittenText? Value) : Edit
{
    public override string Target => "details/plainText";

    public override Document Apply(Document document) => Expect<Email>(document) with { PlainText = Value };

    public override Edit Invert(Document before) => new SetPlainText(Expect<Email>(before).PlainText);
}

/// <summary>Says whether authors may write the plain text of a template's emails by hand.</summary>
public sealed record SetPlainTextOpen(bool Open) : Edit
{
    public override string Target => "about/plain-text";

    public override Document Apply(Document document) => Expect<Template>(document) with { PlainTextOpen = Open };

    public override Edit Invert(Document before) => new SetPlainTextOpen(Expect<Template>(before).PlainTextOpen);
}

/// <summary>Says which files go out with an email.</summary>
public sealed record SetAttachments(ImmutableArray<Attachment> Files) : Edit
{
    public override string Target => "details/attachments";

    public override Document Apply(Document document) => Expect<Email>(document) with { Attachments = Files };

    public override Edit Invert(Document before) => new SetAttachments(Expect<Email>(before).Attachments);
}

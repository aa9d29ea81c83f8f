using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>Says to whom an email is written, where its template is for one person.</summary>
/// <param name="To">Null: to nobody yet.</param>
public sealed record SetRecipient(Recipient? To) : Edit
{
    public override string Target => "details/recipient";

    public override Document Apply(Document document) =>
        To?.Fault() is { } fault ? throw new StructureException(fault, "recipient") : Expect<Email>(document) with { Recipient = To };

    public override Edit Invert(Document before) => new SetRecipient(Expect<Email>(before).Recipient);
}

/// <summary>Says whether a template's emails are each written to one person.</summary>
public sealed record SetForOnePerson(bool On) : Edit
{
    public override string Target => "about/for-one-person";

    public override Document Apply(Document document) => Expect<Template>(document) with { ForOnePerson = On };

    public override Edit Invert(Document before) => new SetForOnePerson(Expect<Template>(before).ForOnePerson);
}

using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>Opens a zone in a template's running order.</summary>
public sealed record InsertZone(int Index, Zone Zone) : Edit
{
    public override string? Target => null;

    public override Document Apply(Document document)
    {
        Ids.RefuseKnown(document, Zone.Id);
        return ItemAccess.Insert(Expect<Template>(document), null, Index, Zone);
    }

    public override Edit Invert(Document before) => new RemoveZone(Zone.Id);
}

/// <summary>Takes a zone out of a template, with what new emails start with there.</summary>
public sealed record RemoveZone(string Zone) : Edit
{
    public override string? Target => null;

    private protected override string? Whole => Zone;

    public override Document Apply(Document document) =>
        ItemAccess.FindZone(Expect<Template>(document), Zone) is var zone
            ? ItemAccess.Without(document, ItemAccess.Find(document, zone.Id))
            : document;

    public override Edit Invert(Document before) => new InsertZone(ItemAccess.Find(before, Zone).Index, ItemAccess.FindZone(before, Zone));
}

/// <summary>Says what a zone takes and how much of it; what stands in it and its locks stay.</summary>
public sealed record SetZone(Zone Zone) : Edit
{
    public override string Target => $"{Zone.Id}/zone";

    public override Document Apply(Document document)
    {
        var template = Expect<Template>(document);
        var former = ItemAccess.FindZone(template, Zone.Id);
        return ItemAccess.Replace(template, Zone with { Default = former.Default, Locks = former.Locks });
    }

    public override Edit Invert(Document before) =>
        new SetZone(ItemAccess.FindZone(before, Zone.Id) with { Default = [], Locks = Locks.Unset });
}

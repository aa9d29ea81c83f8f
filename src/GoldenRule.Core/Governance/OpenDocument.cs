using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Governance;

/// <summary>A document together with what must be known to decide about edits of it.</summary>
public abstract record OpenDocument
{
    private OpenDocument()
    {
    }

    public sealed record OfEmail(Email Email, RunningOrder Order, MasterShelf Masters, EmailState State) : OpenDocument;

    /// <summary>A template, saved row or house style: the draft that the next release is made from.</summary>
    public sealed record OfMaster(Document Master) : OpenDocument;
}

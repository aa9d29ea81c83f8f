using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

public abstract partial record FieldValue
{
    /// <summary>Named links in order, as social links are.</summary>
    public sealed record LinkList(ImmutableArray<NamedLink> Links) : FieldValue
    {
        public override void Visit(FieldVisitor visitor, FieldPart part = default)
        {
            for (var i = 0; i < Links.Length; i++)
            {
                visitor.Words(Links[i].Name, new FieldPart(i + 1));
                visitor.Address(Links[i].Href, new FieldPart(i + 1));
            }
        }

        public override FieldValue Map(FieldMap map, FieldPart part = default)
        {
            var links = Map(Links, (link, i) =>
                link with
                {
                    Name = map.Words(link.Name, new FieldPart(i + 1)),
                    Href = map.Address(link.Href, new FieldPart(i + 1)),
                }
            );
            return links == Links ? this : new LinkList(links);
        }

        public override string Describe() => string.Join(", ", Links.Select(l => l.Name));

        public override int? CountItems() => Links.Length;
    }
}

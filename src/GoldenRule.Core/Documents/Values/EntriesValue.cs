using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

public abstract partial record FieldValue
{
    /// <summary>
    /// Items of one shape in order, as the cards of a list are: each has a value by field, see <see cref="Field.Entry"/>.
    /// </summary>
    public sealed record Entries(ImmutableArray<ImmutableSortedDictionary<string, FieldValue>> Items) : FieldValue
    {
        public override void Visit(FieldVisitor visitor, FieldPart part = default)
        {
            for (var i = 0; i < Items.Length; i++)
            {
                foreach (var (name, value) in Items[i])
                {
                    value.Visit(visitor, new FieldPart(i + 1, 0, name));
                }
            }
        }

        public override FieldValue Map(FieldMap map, FieldPart part = default)
        {
            var items = Map(Items, (item, i) => Map(item, map, i + 1));
            return items == Items ? this : new Entries(items);
        }

        private static ImmutableSortedDictionary<string, FieldValue> Map(
            ImmutableSortedDictionary<string, FieldValue> item,
            FieldMap map,
            int number
        )
        {
            var made = item;
            foreach (var (name, value) in item)
            {
                if (value.Map(map, new FieldPart(number, 0, name)) is var changed && !ReferenceEquals(changed, value))
                {
                    made = made.SetItem(name, changed);
                }
            }

            return made;
        }

        public override string Describe() =>
            string.Join("; ", Items.Select(i => string.Join(", ", i.Values.Select(v => v.Describe()).Where(v => v.Length > 0))));

        public override int? CountItems() => Items.Length;
    }
}

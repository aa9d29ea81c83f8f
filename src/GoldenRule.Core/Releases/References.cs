using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Releases;

/// <summary>What a document can refer to. A new kind is one line here and the line that finds it in <see cref="References"/>.</summary>
public enum ReferenceKind
{
    /// <summary>The house style that a template is dressed in, or that a sub-brand lies on.</summary>
    HouseStyle,

    /// <summary>The template's release that an email stands on.</summary>
    Template,

    /// <summary>A saved row: placed by its release, taken by a zone, or varied by another.</summary>
    Row,

    /// <summary>The saved row that an own row was once; it is not used any more.</summary>
    FormerRow,

    /// <summary>A brand variable, by the technical name as it is written.</summary>
    Variable,

    /// <summary>A brand variable that comes to something else within a template or row.</summary>
    Override,

    /// <summary>A picture of the library.</summary>
    Picture,

    /// <summary>A file that goes out with an email.</summary>
    File,

    /// <summary>A snippet, by its technical name.</summary>
    Snippet,

    /// <summary>A field of readers', by its technical name.</summary>
    Field,

    /// <summary>A website that a link leads to, by its host in lower case.</summary>
    Host,

    /// <summary>An audience, by its technical name.</summary>
    Audience,
}

/// <summary>One place of a document that refers to something.</summary>
/// <param name="Key">Id of the document, picture or file; a variable's technical name; a host.</param>
/// <param name="Release">Number of the release it stands on; 0: whichever is the newest, or it has none.</param>
/// <param name="Place">"row/block/field", with an item's part after it; "zone/x", "variable/x", "style/x/y" or "overrides/x".</param>
public sealed record Reference(ReferenceKind Kind, string Key, int Release, string Place);

/// <summary>Everything that a document says itself and that leads out of it: what "where used" and "may this go" are answered by.</summary>
public static class References
{
    public static IReadOnlySet<Reference> Find(Document document)
    {
        var found = new Collected();
        switch (document)
        {
            case Email email:
                InEmail(found, email);
                break;
            case Template template:
                found.Add(ReferenceKind.HouseStyle, template.HouseStyle, "template");
                InDetails(found, template.Details);
                InOrder(found, template.Order);
                InOverrides(found, template.Narrowed, "");
                break;
            case SavedRow row:
                InRow(found, row, row.Row.Id);
                break;
            case HouseStyle style:
                InStyle(found, style);
                break;
            case Snippet snippet:
                InSnippet(found, snippet);
                break;
            case AudiencePlan:
                break;
            default:
                throw new InvalidOperationException($"Nobody has said what a {document.GetType().Name} refers to.");
        }

        return found.All;
    }

    /// <summary>What one value refers to.</summary>
    public static IEnumerable<Reference> In(FieldValue value)
    {
        var found = new Collected();
        found.In("", "", value);
        return found.All;
    }

    private static void InEmail(Collected found, Email email)
    {
        found.Add(ReferenceKind.Template, email.Template, "email", email.TemplateRelease);
        InDetails(found, email.Details);
        foreach (var attachment in email.Attachments)
        {
            found.Add(ReferenceKind.File, attachment.File, "attachments");
        }

        foreach (var (row, fills) in email.Fills)
        {
            InFills(found, fills, row);
        }

        foreach (var row in email.Zones.Values.SelectMany(z => z))
        {
            InPlaced(found, row);
        }

        foreach (var (key, unplaced) in email.Unplaced)
        {
            found.In($"unplaced/{key}", unplaced.Field ?? "", unplaced.Value);
            found.Condition(unplaced.Condition, $"unplaced/{key}");
            foreach (var row in unplaced.Rows)
            {
                InPlaced(found, row);
            }
        }

        // What stood in the issue before is only compared with, and need not be there any more.
    }

    private static void InDetails(Collected found, EmailDetails details)
    {
        found.In("details", "subject", new FieldValue.Words(details.Subject));
        found.In("details", "preheader", new FieldValue.Words(details.Preheader));
    }

    private static void InSnippet(Collected found, Snippet snippet)
    {
        foreach (var value in snippet.Values)
        {
            found.In("values", value.Id, value.Value);
        }

        found.Add(ReferenceKind.Snippet, snippet.ReplacedBy ?? "", "replaced-by");
    }

    private static void InOrder(Collected found, ImmutableArray<OrderItem> order)
    {
        foreach (var item in order)
        {
            if (item is Zone zone)
            {
                foreach (var row in zone.Rows)
                {
                    found.Add(ReferenceKind.Row, row, $"zone/{zone.Id}");
                }

                foreach (var row in zone.Default)
                {
                    InPlaced(found, row);
                }
            }
            else if (item is PlacedRow placed)
            {
                InPlaced(found, placed);
            }
        }
    }

    private static void InPlaced(Collected found, PlacedRow row)
    {
        if (row.Own is { } own)
        {
            if (row.Master is { } former)
            {
                found.Add(ReferenceKind.FormerRow, former, row.Id);
            }

            InRow(found, own, row.Id);
            return;
        }

        if (row.Master is { } master)
        {
            found.Add(ReferenceKind.Row, master, row.Id, row.Release ?? 0);
        }

        InFills(found, row.Fills, row.Id);
    }

    private static void InFills(Collected found, ImmutableSortedDictionary<string, PieceFill> fills, string row)
    {
        foreach (var (piece, fill) in fills)
        {
            foreach (var (field, value) in fill.Content)
            {
                found.In($"{row}/{piece}", field, value);
            }

            found.Condition(fill.Condition, $"{row}/{piece}/condition");
        }
    }

    private static void InRow(Collected found, SavedRow row, string place)
    {
        if (row.VariantOf is { } varied)
        {
            found.Add(ReferenceKind.Row, varied, place);
        }

        if (row.Row.Background is { } background)
        {
            found.In($"{place}/{row.Row.Id}", "background", new FieldValue.Image(background));
        }

        found.Condition(row.Row.Condition, $"{place}/{row.Row.Id}/condition");
        foreach (var block in row.Row.Blocks)
        {
            found.Condition(block.Condition, $"{place}/{block.Id}/condition");
            foreach (var (field, value) in block.Content)
            {
                found.In($"{place}/{block.Id}", field, value);
            }
        }

        InOverrides(found, row.Narrowed, $"{place}/");
    }

    private static void InOverrides(Collected found, ImmutableSortedDictionary<string, NarrowedValue> overrides, string place)
    {
        foreach (var (key, value) in overrides)
        {
            found.Add(ReferenceKind.Override, key, $"{place}overrides/{key}");
            found.Written(value.Value, $"{place}overrides/{key}");
            found.Written(value.Dark, $"{place}overrides/{key}");
        }
    }

    private static void InStyle(Collected found, HouseStyle style)
    {
        if (style.Parent is { } parent)
        {
            found.Add(ReferenceKind.HouseStyle, parent, "parent");
        }

        foreach (var variable in style.Variables)
        {
            var place = $"variable/{variable.Key}";
            found.Written(variable.Value, place);
            found.Written(variable.Dark, place);
            if (BrandVariable.Reference(variable.Value) is null && variable.Type is VariableType.Picture)
            {
                found.Add(ReferenceKind.Picture, variable.Value, place);
            }
            else if (variable.Type is VariableType.Link)
            {
                found.Host(variable.Value, place);
            }
        }

        foreach (var (name, properties) in style.Styles)
        {
            foreach (var (property, value) in properties)
            {
                found.Written(value, $"style/{name}/{property}");
            }
        }
    }

    /// <summary>The references found so far; of field values it hears by visiting them.</summary>
    private sealed class Collected : FieldVisitor
    {
        private string piece = "";
        private string field = "";

        public HashSet<Reference> All { get; } = [];

        public void Add(ReferenceKind kind, Guid key, string place, int release = 0) => Add(kind, key.ToString(), place, release);

        public void Add(ReferenceKind kind, string key, string place, int release = 0)
        {
            if (key.Length > 0)
            {
                All.Add(new Reference(kind, key, release, place));
            }
        }

        public void Condition(Condition? condition, string place)
        {
            foreach (var leaf in condition?.Leaves() ?? [])
            {
                if (leaf is Condition.Test test)
                {
                    Add(ReferenceKind.Field, test.Field, place);
                }
                else if (leaf is Condition.Audience audience)
                {
                    Add(ReferenceKind.Audience, audience.Key, place);
                }
            }
        }

        public void In(string atPiece, string atField, FieldValue? value)
        {
            (piece, field) = (atPiece, atField);
            value?.Visit(this);
        }

        /// <summary>A value that may be "{key}".</summary>
        public bool Written(string? value, string place)
        {
            if (value is null || BrandVariable.Reference(value) is not { } key)
            {
                return false;
            }

            Add(ReferenceKind.Variable, key, place);
            return true;
        }

        public void Host(string href, string place) => Add(ReferenceKind.Host, Links.HostOf(href)?.ToLowerInvariant() ?? "", place);

        public override void Words(string text, FieldPart part)
        {
            foreach (var (node, _, _) in InlineNode.Find(text))
            {
                Add(node.Kind == InlineKind.Snippet ? ReferenceKind.Snippet : ReferenceKind.Field, node.Key, Place(part));
            }
        }

        public override void Address(string href, FieldPart part)
        {
            Words(href, part);
            if (href.Length > 0 && !Written(href, Place(part)))
            {
                Host(InlineNode.WithoutNodes(href), Place(part));
            }
        }

        public override void Picture(string picture, FieldPart part)
        {
            Words(picture, part);
            if (picture.Length > 0 && !Written(picture, Place(part)) && !InlineNode.AreIn(picture))
            {
                Add(ReferenceKind.Picture, picture, Place(part));
            }
        }

        public override void Prose(RichText text, FieldPart part)
        {
            foreach (var run in text.Paragraphs.SelectMany(p => p.Runs))
            {
                if (run.Variable is { } key)
                {
                    Add(ReferenceKind.Variable, key, Place(part));
                }

                Words(run.Text, part);
                Address(run.Href ?? "", part);
            }
        }

        public override void Code(FieldValue.Code code, FieldPart part)
        {
            foreach (var link in code.Sanitised().Links)
            {
                Host(link, Place(part));
            }
        }

        private string Place(FieldPart part) => $"{piece}/{field}{part}";
    }
}

using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Releases;

namespace GoldenRule.Core.Tests;

/// <summary>What a document refers to, against a walk over its stored JSON that knows nothing of the types.</summary>
public sealed partial class ReferencesTests
{
    private static readonly string Picture = new('a', 64);

    public static TheoryData<string> Documents() => [.. All.Keys];

    private static readonly ImmutableSortedDictionary<string, Document> All = new (string Name, Document Document)[]
    {
        ("house style", Larkfell.HouseStyle),
        ("sub-brand", Larkfell.Tearooms),
        ("every kind of block, in a row", Everything()),
        ("every kind of block, in an email", InEmail()),
    }
        .Concat(Larkfell.Emails.Select(e => (e.Name, (Document)e.Email)))
        .Concat(Larkfell.Snippets.All.Select(s => ("snippet " + s.Snippet.Name, (Document)s.Snippet)))
        .Append(("a replaced snippet", Larkfell.Snippets.All.First().Snippet with { ReplacedBy = "lost-property" }))
        .Append(("nodes everywhere", WithNodes()))
        .Append(("audiences", Larkfell.Audiences))
        .Concat(Larkfell.Rows.Select(r => ("row " + r.Row.Name, (Document)r.Row)))
        .Concat(Larkfell.Masters.Templates.Select(t => ("template " + t.Name, (Document)t)))
        .ToImmutableSortedDictionary(d => d.Item1, d => d.Item2, StringComparer.Ordinal);

    [Theory]
    [MemberData(nameof(Documents))]
    public void Everything_that_leads_out_of_a_document_is_a_reference(string name)
    {
        var document = All[name];
        var walked = new SortedSet<string>(StringComparer.Ordinal);
        Walk(JsonNode.Parse(JsonSerializer.Serialize<object>(document, DocumentJson.Options)), "", walked);
        Assert.Equal(
            walked,
            [.. References.Find(document).Select(r => $"{r.Kind} {r.Key} {r.Release}").Order(StringComparer.Ordinal).Distinct()]
        );
    }

    [Fact]
    public void A_new_property_that_holds_an_id_has_to_be_thought_of()
    {
        var seen = new HashSet<Type>();
        var ids = new SortedSet<string>(StringComparer.Ordinal);
        void Look(Type type)
        {
            foreach (var argument in type.GetGenericArguments())
            {
                Look(argument);
            }

            if (type.Namespace?.StartsWith("GoldenRule.Core", StringComparison.Ordinal) != true || !seen.Add(type))
            {
                return;
            }

            foreach (var derived in type.Assembly.GetTypes().Where(t => t.BaseType == type))
            {
                Look(derived);
            }

            foreach (var property in type.GetProperties().Where(p => p.CanWrite))
            {
                if (property.PropertyType.ToString().Contains("System.Guid", StringComparison.Ordinal))
                {
                    ids.Add($"{property.DeclaringType!.Name}.{property.Name}");
                }

                Look(property.PropertyType);
            }
        }

        Look(typeof(Document));
        // People and teams are no part of the library: who may do what is asked of locks, not of the table of references.
        Assert.Equal(
            [
                "Email.Template",
                "HouseStyle.Parent",
                "PlacedRow.Master",
                "Reserved.People",
                "Reserved.Teams",
                "SavedRow.VariantOf",
                "SnippetEditors.People",
                "Template.HouseStyle",
                "Zone.Rows",
            ],
            ids
        );
    }

    [Fact]
    public void Each_place_says_where_it_is()
    {
        var places = References.Find(Everything()).Where(r => r.Kind == ReferenceKind.Host).Select(r => r.Place).ToList();
        Assert.Contains("everything/button/link", places);
        Assert.Contains(places, p => p.StartsWith("everything/cards/cards/1/", StringComparison.Ordinal));
        var template = Assert.Single(References.Find(Larkfell.Gazette), r => r.Kind == ReferenceKind.Template);
        Assert.Equal((Larkfell.Gazette.Template.ToString(), 1, "email"), (template.Key, template.Release, template.Place));
    }

    // Every field of every kind of block filled with what leads somewhere.
    private static SavedRow Everything() =>
        new()
        {
            Name = "Everything",
            RowKind = RowKind.Main,
            VariantOf = Guid.Parse("00000000-0000-0000-0000-00000000000a"),
            Narrowed = ImmutableSortedDictionary<string, NarrowedValue>.Empty.Add("moor", new NarrowedValue("{accent}", "{night}")),
            Row = new Row
            {
                Id = "everything",
                Background = Picture,
                Columns =
                [
                    new Column
                    {
                        Id = "column",
                        Blocks =
                        [
                            .. BlockKinds.All.Select(kind =>
                                kind.New(kind.Name) with
                                {
                                    Content = kind.Fields.ToImmutableSortedDictionary(f => f.Name, f => Leading(f, kind.Name)),
                                }
                            ),
                        ],
                    },
                ],
            },
        };

    private static Email InEmail()
    {
        var own = new PlacedRow
        {
            Id = "own",
            Own = Everything(),
            Master = Guid.Parse("00000000-0000-0000-0000-00000000000b"),
        };
        var fill = new PieceFill { Content = Everything().Row.Blocks.First(b => b.Kind == "card").Content };
        return Larkfell.Gazette with
        {
            Zones = Larkfell.Gazette.Zones.SetItem("more", [own]),
            Fills = Larkfell.Gazette.Fills.SetItem("hero", ImmutableSortedDictionary<string, PieceFill>.Empty.Add("piece", fill)),
            Attachments = [new Attachment(new string('b', 64), "timetable.pdf", "application/pdf", 100)],
            Unplaced = ImmutableSortedDictionary<string, UnplacedContent>.Empty.Add(
                "lost",
                new UnplacedContent("gone", "piece", "Story", "It is gone.") { Field = "picture", Value = new FieldValue.Image("{crest}") }
            ),
        };
    }

    // Every place where a snippet or field can stand: in words, prose, links, pictures and what the inbox shows.
    private static Email WithNodes()
    {
        var nodes = new Nodes();
        return Larkfell.Gazette with
        {
            Details = new EmailDetails { Subject = $"{new InlineNode(InlineKind.Field, "subject")} and more", Preheader = "None" },
            Zones = Larkfell.Gazette.Zones.SetItem(
                "more",
                [
                    new PlacedRow
                    {
                        Id = "own",
                        Own = Everything() with
                        {
                            Row = Everything().Row with
                            {
                                Condition = new Condition.Group(
                                    Matching.Any,
                                    [new Condition.Audience("members"), new Condition.Test("shoe-size", Comparison.Empty, [])]
                                ),
                                Columns =
                                [
                                    .. Everything()
                                        .Row.Columns.Select(c =>
                                            c with
                                            {
                                                Blocks =
                                                [
                                                    .. c.Blocks.Select(b =>
                                                        b with
                                                        {
                                                            Content = b.Content.ToImmutableSortedDictionary(
                                                                v => v.Key,
                                                                v => v.Value.Map(nodes)
                                                            ),
                                                        }
                                                    ),
                                                ],
                                            }
                                        ),
                                ],
                            },
                        },
                    },
                ]
            ),
        };
    }

    private sealed class Nodes : FieldMap
    {
        private int count;

        public override string Words(string text, FieldPart part) => text + Node(InlineKind.Snippet);

        public override RichText Prose(RichText text, FieldPart part) =>
            RichText.FromParagraphs($"Now {Node(InlineKind.Snippet)} for {Node(InlineKind.Field)}");

        public override string Address(string href, FieldPart part) => $"{Node(InlineKind.Snippet)}";

        public override string Picture(string picture, FieldPart part) => $"{Node(InlineKind.Snippet)}";

        private InlineNode Node(InlineKind kind) => new(kind, $"node-{count++}");
    }

    private static FieldValue Leading(Field field, string kind) =>
        field.Default switch
        {
            FieldValue.Words words => words,
            FieldValue.Prose => new FieldValue.Prose(
                new RichText
                {
                    Paragraphs =
                    [
                        new Paragraph
                        {
                            Runs =
                            [
                                new Run { Text = "Read", Href = $"https://{kind}.{field.Name.ToLowerInvariant()}.example.org/a" },
                                new Run { Text = "on", Href = "{site}" },
                                new Run { Variable = "address" },
                            ],
                        },
                    ],
                }
            ),
            FieldValue.Link => new FieldValue.Link($"https://{kind}.example.org"),
            FieldValue.Image => new FieldValue.Image(kind == "card" ? "{crest}" : Picture),
            FieldValue.LinkList => new FieldValue.LinkList([
                new NamedLink("Shop", "https://Shop.example.org/x"),
                new NamedLink("All", "{site}"),
            ]),
            FieldValue.Entries => new FieldValue.Entries([field.Entry.ToImmutableSortedDictionary(e => e.Name, e => Leading(e, kind))]),
            FieldValue.Code => new FieldValue.Code("<p><a href=\"https://code.example.org/\">by hand</a></p>"),
            FieldValue.Flag or FieldValue.Cells or FieldValue.Moment => field.Default,
            var other => throw new InvalidOperationException($"Say here what a {other.GetType().Name} may lead to."),
        };

    private static void Walk(JsonNode? node, string property, SortedSet<string> found)
    {
        if (node is JsonArray list)
        {
            foreach (var one in list)
            {
                Walk(one, property, found);
            }
        }
        else if (node is JsonObject holder)
        {
            foreach (var (name, value) in holder)
            {
                // What was written in the issue before is only compared with; locks speak of people; audiences ask fields of the same
                // document.
                if (name is "lastTime" or "stillRight" or "locks" or "plainText" or "editors" or "audiences")
                {
                    continue;
                }

                if (name == "kind" && (string?)value is "test" or "audience")
                {
                    found.Add((string?)value == "test" ? $"Field {holder["field"]} 0" : $"Audience {holder["key"]} 0");
                }

                if (name == "narrowed")
                {
                    found.UnionWith(value!.AsObject().Select(v => $"Override {v.Key} 0"));
                }

                if (name == "master" && value is not null)
                {
                    var own = holder["own"] is not null;
                    found.Add(own ? $"FormerRow {value} 0" : $"Row {value} {holder["release"] ?? 0}");
                }
                else if (name == "template" && value is JsonValue)
                {
                    found.Add($"Template {value} {holder["templateRelease"]}");
                }
                else
                {
                    Walk(value, name, found);
                }
            }
        }
        else if (node?.GetValueKind() == JsonValueKind.String)
        {
            Text(node.GetValue<string>(), property, found);
        }
    }

    private static void Text(string text, string property, SortedSet<string> found)
    {
        foreach (Match node in InNode().Matches(text))
        {
            found.Add($"{(node.Groups["kind"].Value == "snippet" ? "Snippet" : "Field")} {node.Groups["key"].Value} 0");
        }

        if (property == "replacedBy")
        {
            found.Add($"Snippet {text} 0");
        }

        if (Key().Match(text) is { Success: true } key)
        {
            found.Add($"Variable {key.Groups["key"].Value} 0");
        }
        else if (property == "variable")
        {
            found.Add($"Variable {text} 0");
        }
        else if (Hash().IsMatch(text))
        {
            found.Add($"{(property == "file" ? "File" : "Picture")} {text} 0");
        }
        else if (property is "houseStyle" or "parent")
        {
            found.Add($"HouseStyle {text} 0");
        }
        else if (property is "variantOf" or "rows" && Guid.TryParse(text, out _))
        {
            found.Add($"Row {text} 0");
        }
        else if (property == "html")
        {
            found.UnionWith(Address().Matches(text).Select(m => $"Host {new Uri(m.Value).Host} 0"));
        }
        else if (property is "href" or "value" && Uri.TryCreate(text, UriKind.Absolute, out var address) && address.Host.Length > 0)
        {
            found.Add($"Host {address.Host} 0");
        }
    }

    [GeneratedRegex(@"^\{(?<key>[a-z][a-z0-9-]*)\}$", RegexOptions.ExplicitCapture)]
    private static partial Regex Key();

    [GeneratedRegex("\uFDD0(?<kind>snippet|field):(?<key>[a-z][a-z0-9-]*)\uFDD1", RegexOptions.ExplicitCapture)]
    private static partial Regex InNode();

    [GeneratedRegex("^[0-9a-f]{64}$")]
    private static partial Regex Hash();

    [GeneratedRegex("https?://[^\"< ]+")]
    private static partial Regex Address();
}

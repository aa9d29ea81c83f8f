using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>
/// An email whose links carry the tags of its campaign type: what goes out. On the desk links stand as they were written.
/// </summary>
public static class LinkTrackedEmail
{
    public static ResolvedEmail Track(ResolvedEmail email, LinkTags tags) =>
        tags.Tags.IsEmpty
            ? email
            : email with
            {
                Rows =
                [
                    .. email.Rows.Select(row =>
                        tags.For(email.Email, email.Template.CampaignType, row.Name) is var own && own.IsEmpty
                            ? row
                            : row with
                            {
                                Columns = [.. row.Columns.Select(c => c with { Blocks = [.. c.Blocks.Select(b => Track(b, tags, own))] })],
                            }
                    ),
                ],
            };

    // Ways out, view in browser and the like lead to the sending platform, which knows the reader.
    private static ResolvedBlock Track(ResolvedBlock block, LinkTags tags, ImmutableArray<LinkTag> own) =>
        BlockKinds.For(block.Master).Group == KindGroup.Service
            ? block
            : block with
            {
                Content = new([.. block.Content.All.Select(f => KeyValuePair.Create(f.Key, Track(f.Value, tags, own)))]),
            };

    private static FieldValue Track(FieldValue value, LinkTags tags, ImmutableArray<LinkTag> own)
    {
        return value switch
        {
            FieldValue.Link target when tags.AppliesTo(target.Href) => new FieldValue.Link(TaggedLink.AddTags(target.Href, own)),
            FieldValue.LinkList list => new FieldValue.LinkList([.. list.Links.Select(l => l with { Href = Tagged(l.Href) })]),
            FieldValue.Prose prose when prose.Text.Paragraphs.Any(p => p.Runs.Any(r => r.Href is not null)) => new FieldValue.Prose(
                new RichText
                {
                    Paragraphs =
                    [
                        .. prose.Text.Paragraphs.Select(p =>
                            p with
                            {
                                Runs = [.. p.Runs.Select(r => r.Href is null ? r : r with { Href = Tagged(r.Href) })],
                            }
                        ),
                    ],
                }
            ),
            FieldValue.Entries entries => new FieldValue.Entries([
                .. entries.Items.Select(item => item.SetItems(item.Select(f => KeyValuePair.Create(f.Key, Track(f.Value, tags, own))))),
            ]),
            _ => value,
        };

        string Tagged(string href) => tags.AppliesTo(href) ? TaggedLink.AddTags(href, own) : href;
    }
}

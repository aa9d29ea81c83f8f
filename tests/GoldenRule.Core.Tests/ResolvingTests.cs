using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Releases;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Tests;

public sealed class ResolvingTests
{
    private static readonly Email Gazette = Larkfell.Gazette;

    [Fact]
    public void The_nearest_layer_that_speaks_wins_and_provenance_tells_the_chain()
    {
        var shop = Larkfell.Emails.Single(e => e.Name.StartsWith("Spring", StringComparison.Ordinal)).Email;
        var hero = RunningOrder.From(shop, Larkfell.Masters).Find("hero")!;
        var button = hero.FindBlock("button")!;
        // The saved row says one thing, the template another, the email nothing.
        Assert.Equal(["Choose your seat", "Visit the shop"], Layers("button", ExplainedKind.Words, "text").Select(s => s.Value));
        Assert.Equal("Visit the shop", Resolver.Resolve(hero, Larkfell.Style).Blocks.Single(b => b.Id == "button").Words("text"));
        // The email speaks last.
        Assert.Equal("This email", Layers("headline", ExplainedKind.Words, "text")[^1].Layer);
        // Each layer says where it can be opened.
        Assert.Equal([LayerPlace.Row, LayerPlace.Template], Layers("button", ExplainedKind.Words, "text").Select(s => s.Place));
        Assert.Equal(shop.Template.ToString(), Layers("button", ExplainedKind.Words, "text")[^1].Id);

        ImmutableArray<SaidLayer> Layers(string piece, ExplainedKind kind, string field) =>
            Explain(shop, hero).Single(e => (e.Piece, e.Kind, e.Field) == (piece, kind, field)).Layers;
    }

    [Fact]
    public void The_last_layer_of_every_provenance_is_what_resolves()
    {
        foreach (var (_, email) in Larkfell.Emails)
        {
            foreach (var row in RunningOrder.From(email, Larkfell.Masters).Rows)
            {
                var all = Explain(email, row);
                foreach (var block in Resolver.Resolve(row, Larkfell.Style).Blocks)
                {
                    var kind = BlockKinds.For(block.Master);
                    var of = all.Where(e => e.Piece == block.Id).ToList();
                    Assert.All(kind.Look, l =>
                        Assert.Equal(l.Value(block.Look), of.Single(e => e.Kind == ExplainedKind.Look && e.Name == l.Label).Value)
                    );
                    Assert.All(block.Content.Where(c => c.Value is FieldValue.Words), c =>
                        Assert.Equal(
                            ((FieldValue.Words)row.ContentOf(block.Master)[c.Key]).Describe(),
                            of.Single(e => e.Kind == ExplainedKind.Words && e.Field == c.Key).Layers[^1].Value
                        )
                    );
                }
            }
        }
    }

    [Fact]
    public void A_lock_that_holds_is_said_by_one_of_its_layers_and_none_is_tighter()
    {
        foreach (var (_, email) in Larkfell.Emails)
        {
            foreach (var row in RunningOrder.From(email, Larkfell.Masters).Rows)
            {
                Assert.All(Explain(email, row).Where(e => e.Kind == ExplainedKind.Lock), e =>
                {
                    Assert.Contains(e.Value, e.Layers.Select(l => l.Value));
                    // Further down a lock may only tighten: where a template locks, it is locked.
                    if (e.Layers.Any(l => l is { Place: LayerPlace.Template, Value: "locked" }))
                    {
                        Assert.Equal("locked", e.Value);
                    }
                });
            }
        }
    }

    [Fact]
    public void A_brand_variable_and_a_limit_say_where_they_are_said()
    {
        var footer = RunningOrder.From(Gazette, Larkfell.Masters).Rows[^1];
        var variables = Explain(Gazette, footer).Where(e => e.Kind == ExplainedKind.Variable).ToList();
        Assert.Contains(variables, v => v.Value.Contains("Station Yard", StringComparison.Ordinal));
        Assert.All(variables, v => Assert.All(v.Layers, l => Assert.Equal(LayerPlace.HouseStyle, l.Place)));
        var limits = RunningOrder
            .From(Gazette, Larkfell.Masters)
            .Rows.SelectMany(r => Explain(Gazette, r))
            .Where(e => e.Kind == ExplainedKind.Limit)
            .ToList();
        Assert.NotEmpty(limits);
        Assert.All(limits, l => Assert.Equal(l.Value, l.Layers[^1].Value));
        Assert.Contains(limits, l => l.Value.StartsWith("at most ", StringComparison.Ordinal));
    }

    private static ImmutableArray<ExplainedValue> Explain(Email email, OrderedRow row) =>
        new Provenance(
            "This email",
            email.Template,
            RunningOrder.From(email, Larkfell.Masters).Template,
            Larkfell.Style,
            InlineValues.None,
            Larkfell.Pictures
        ).OfRow(row);

    [Fact]
    public void Variables_in_text_and_links_are_filled_in_and_unknown_ones_name_their_place()
    {
        var footer = Larkfell.Resolve(Gazette).Rows[^1].Blocks.Single(b => b.Master.Kind == "legal-footer");
        Assert.Contains("Station Yard", footer.Prose("text").PlainText, StringComparison.Ordinal);
        Assert.StartsWith("https://", footer.Href("unsubscribe"), StringComparison.Ordinal);

        var broken = (Email)new SetFill("hero", "button", "link", new FieldValue.Link("{nowhere}")).Apply(Gazette);
        Assert.Equal("hero/button/link", Assert.Throws<StructureException>(() => Larkfell.Resolve(broken)).Piece);
    }

    [Fact]
    public void An_edit_recompiles_its_own_row_and_the_result_is_that_of_compiling_all()
    {
        var (before, _) = Both(Gazette, null, null);
        var compiled = Compiler.Compile(before, "", Purpose.Sending);
        var edited = (Email)new SetFill("viaduct", "headline", "text", new FieldValue.Words("Other words")).Apply(Gazette);
        var (after, fresh) = Both(edited, before, compiled);

        Assert.Equal(Compiler.Compile(Larkfell.Resolve(edited), "", Purpose.Sending).Html(), fresh.Html());
        var changed = fresh.Rows.Where((r, i) => !ReferenceEquals(r, compiled.Rows[i])).ToList();
        Assert.Equal("viaduct", Assert.Single(changed).Source.Id);
        Assert.Equal("viaduct", Assert.Single(after.Rows.Except(before.Rows)).Id);
    }

    [Fact]
    public void A_new_house_style_recompiles_every_row()
    {
        var (before, _) = Both(Gazette, null, null);
        var compiled = Compiler.Compile(before, "", Purpose.Sending);
        var style = new HouseStyles.StyleLayers(
            Larkfell.HouseStyle.WithVariable(Larkfell.HouseStyle.FindVariable("buffer-red")! with { Value = "#004488" })
        );
        var after = Compiler.Compile(
            Resolver.Resolve(Gazette, RunningOrder.From(Gazette, Larkfell.Masters), style, Larkfell.Pictures, before),
            "",
            Purpose.Sending,
            compiled
        );
        Assert.Contains("#004488", after.HtmlText(), StringComparison.Ordinal);
        Assert.DoesNotContain("#8e2a1c", after.HtmlText(), StringComparison.Ordinal);
    }

    private static (ResolvedEmail, CompiledEmail) Both(Email email, ResolvedEmail? resolved, CompiledEmail? compiled)
    {
        var now = Resolver.Resolve(
            email,
            RunningOrder.From(email, Larkfell.Masters, resolved?.Order),
            Larkfell.Style,
            Larkfell.Pictures,
            resolved
        );
        return (now, Compiler.Compile(now, "", Purpose.Sending, compiled));
    }
}

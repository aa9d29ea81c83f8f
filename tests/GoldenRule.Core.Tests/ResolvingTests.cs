using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
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
        Assert.Equal(["Choose your seat", "Visit the shop"], Provenance.OfField(hero, "Shop offer", button, "text").Select(s => s.Value));
        Assert.Equal("Visit the shop", Resolver.Resolve(hero, Larkfell.Style).Blocks.Single(b => b.Id == "button").Words("text"));
        // The email speaks last.
        Assert.Equal("This email", Provenance.OfField(hero, "Shop offer", hero.FindBlock("headline")!, "text")[^1].Layer);
        Assert.Equal("primary", Assert.Single(Provenance.OfLook(hero, "Shop offer", button, "style")).Value);
    }

    [Fact]
    public void The_last_layer_of_every_provenance_is_what_resolves()
    {
        foreach (var (_, email) in Larkfell.Emails)
        {
            var order = RunningOrder.From(email, Larkfell.Masters);
            foreach (var row in order.Rows)
            {
                foreach (var block in Resolver.Resolve(row, Larkfell.Style).Blocks)
                {
                    Assert.All(block.Look, l =>
                        Assert.Equal(l.Value, Provenance.OfLook(row, order.Template.Name, block.Master, l.Key)[^1].Value)
                    );
                    Assert.All(block.Content.Where(c => c.Value is FieldValue.Words), c =>
                        Assert.Equal(
                            ((FieldValue.Words)c.Value).Text,
                            Provenance.OfField(row, order.Template.Name, block.Master, c.Key)[^1].Value
                        )
                    );
                }
            }
        }
    }

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

using System.Collections.Immutable;
using System.Reflection;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Interchange;

/// <summary>A ready-made template for one sort of campaign: a template file that comes with the program.</summary>
/// <param name="For">The sort of campaign it suits, in words.</param>
public sealed record Starter(string Name, string Label, string For, string About, TemplateFile File);

/// <summary>
/// Templates to begin with. A new one is a file in Starters/ and one line here; it is dressed by the house style it lands in.
/// </summary>
public static class Starters
{
    public static ImmutableArray<Starter> All { get; } =
    [
        Load(
            "newsletter",
            "Newsletter",
            "newsletters",
            "A masthead, a lead story, a contents list that fills itself, and room for two to eight stories."
        ),
        Load("event", "Event", "events", "One event with its date, its place and a calendar file, and a reply."),
        Load("offer", "Offer", "offers", "One thing on offer, up to six more, and a voucher."),
        Load("announcement", "Announcement", "announcements", "One message with a signature, and nothing that distracts from it."),
        Load("call", "Call for help", "appeals", "Who is needed, what they would do, and how to say yes."),
        Load("confirmation", "Confirmation", "transactional email", "What was booked, in a table, and what to do next."),
    ];

    /// <summary>A starter's template for a house style: what that lacks of the variables it refers to becomes plain words.</summary>
    /// <exception cref="StructureException">There is no such starter.</exception>
    public static Template Begin(string name, StyleLayers style)
    {
        var starter = All.FirstOrDefault(s => s.Name == name)
            ?? throw new StructureException(
                $"There is no starter \"{name}\"; there are {string.Join(", ", All.Select(s => s.Name))}.",
                "starter"
            );
        return (Template)BlockKinds.Complete(TemplatePacking.Settling(starter.File, style, picture => picture).Map(starter.File.Template));
    }

    private static Starter Load(string name, string label, string @for, string about)
    {
        using var stream = Assembly.GetExecutingAssembly().GetManifestResourceStream($"Starters.{name}.json")
            ?? throw new InvalidOperationException($"Starter {name} does not come with the program.");
        using var reader = new StreamReader(stream);
        return new Starter(name, label, @for, about, TemplateFile.Read(reader.ReadToEnd()));
    }
}

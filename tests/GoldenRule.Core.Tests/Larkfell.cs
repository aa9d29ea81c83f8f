using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Tests;

/// <summary>The demo's documents as the core reads them, with every picture name standing for a picture of 1280 by 640.</summary>
internal static partial class Larkfell
{
    private static readonly string Folder = Path.Combine(AppContext.BaseDirectory, "larkfell");

    public static Person Lead { get; } = new(Guid.NewGuid(), "Ruth", [Role.Lead]);

    public static Person Designer { get; } = new(Guid.NewGuid(), "Dana", [Role.Designer]);

    public static Person Author { get; } = new(Guid.NewGuid(), "Imran", [Role.Author]);

    public static Person Reviewer { get; } = new(Guid.NewGuid(), "Jonas", [Role.Reviewer]);

    public static ReleaseCatalog Masters { get; } =
        new(
            Load<SavedRow>("rows").ToImmutableDictionary(r => (r.Id, 1), r => BlockKinds.Complete(r.Document)),
            Load<Template>("templates").ToImmutableDictionary(r => (r.Id, 1), r => (Template)BlockKinds.Complete(r.Document))
        );

    public static IReadOnlyList<(Guid Id, SavedRow Row)> Rows { get; } =
    [.. Load<SavedRow>("rows").Select(r => (r.Id, BlockKinds.Complete(r.Document)))];

    public static HouseStyle HouseStyle { get; } = Load<HouseStyle>("house-styles").Single(s => s.Document.Parent is null).Document;

    public static HouseStyle Tearooms { get; } = Load<HouseStyle>("house-styles").Single(s => s.Document.Parent is not null).Document;

    public static StyleLayers Style { get; } = new(HouseStyle);

    public static PictureCatalog Pictures { get; } =
        new(
            Directory
                .EnumerateFiles(Folder, "*.json", SearchOption.AllDirectories)
                .SelectMany(f => PictureName().Matches(File.ReadAllText(f)).Select(m => PictureId(m.Groups["file"].Value)))
                .Distinct(StringComparer.Ordinal)
                .Select(id => new Picture(id, id, 1280, 640, 30_000, "jpg", ""))
        );

    /// <summary>What stands for a file of the demo: a hash, as in the library, but of its name.</summary>
    public static string PictureId(string file) =>
        Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(file)));

    public static IReadOnlyList<(string Name, Email Email)> Emails { get; } =
    [.. Load<Email>("emails").Select(e => (e.Document.Name, e.Document))];

    public static Email Gazette => Emails.Single(e => e.Name.StartsWith("March", StringComparison.Ordinal)).Email;

    public static Guid RowId(string name) => Load<SavedRow>("rows").Single(r => r.Document.Name == name).Id;

    public static OpenDocument.OfEmail Open(Email email, EmailState state = EmailState.Draft) =>
        new(email, RunningOrder.From(email, Masters), Masters, state);

    public static ResolvedEmail Resolve(Email email, StyleLayers? style = null) =>
        Resolver.Resolve(email, RunningOrder.From(email, Masters), style ?? Style, Pictures, inline: Inline(email));

    /// <summary>The day that the demo's schedules count from.</summary>
    public static DateTime Today { get; } = new(2026, 11, 29, 9, 0, 0, DateTimeKind.Utc);

    public static SnippetCatalog Snippets { get; } =
        new(Load<Snippet>("snippets").Select(s => new CataloguedSnippet(s.Id, SnippetRules.Check(s.Document), false)));

    public static AudiencePlan Audiences { get; } =
        AudiencePlan.Check(DocumentJson.ReadDocument<AudiencePlan>(File.ReadAllText(Path.Combine(Folder, "audiences.json"))));

    public static ImmutableArray<SampleReader> Readers { get; } =
        DocumentJson.Read<ImmutableArray<SampleReader>>(File.ReadAllText(Path.Combine(Folder, "sample-readers.json")));

    public static InlineValues Inline(Email email) => Snippets.At(Today).For(Audiences, email.Language);

    public static CompiledEmail Compile(Email email, Purpose purpose = Purpose.Sending, StyleLayers? style = null) =>
        Compiler.Compile(Resolve(email, style), "https://larkfell.example.org/pictures/", purpose);

    public static ImmutableArray<Finding> Check(Email email, StyleLayers? style = null, CheckContext? around = null) =>
        Inspect(email, style, around).Findings;

    public static Inspected Inspect(Email email, StyleLayers? style = null, CheckContext? around = null)
    {
        var resolved = Resolve(email, style);
        return CheckList.Run(new Inspection(resolved, Compiler.Compile(resolved, "", Purpose.Sending), around ?? CheckContext.Usual));
    }

    private static IEnumerable<(Guid Id, T Document)> Load<T>(string folder)
        where T : Document
    {
        foreach (var file in Directory.EnumerateFiles(Path.Combine(Folder, folder)).Order(StringComparer.Ordinal))
        {
            var root = JsonNode.Parse(File.ReadAllText(file))!.AsObject();
            var body = root["body"]!.AsObject();
            if (typeof(T) == typeof(Email))
            {
                body.Remove("campaignType");
            }

            yield return (
                root["id"]!.GetValue<Guid>(),
                DocumentJson.ReadDocument<T>(
                    AheadOfToday()
                        .Replace(PictureName().Replace(body.ToJsonString(), m => $"\"{PictureId(m.Groups["file"].Value)}\""), m =>
                            Today
                                .AddDays(int.Parse(m.Groups["days"].Value, CultureInfo.InvariantCulture))
                                .ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
                        )
                )
            );
        }
    }

    [System.Text.RegularExpressions.GeneratedRegex(
        "day:(?<days>-?\\d+)",
        System.Text.RegularExpressions.RegexOptions.ExplicitCapture,
        1000
    )]
    private static partial System.Text.RegularExpressions.Regex AheadOfToday();

    [System.Text.RegularExpressions.GeneratedRegex(
        "\"picture:(?<file>[^\"]+)\"",
        System.Text.RegularExpressions.RegexOptions.ExplicitCapture,
        1000
    )]
    private static partial System.Text.RegularExpressions.Regex PictureName();
}

using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Data;

namespace GoldenRule.Server.Editing;

/// <summary>Documents to and from the JSON they are stored as.</summary>
public static class StoredForm
{
    public static Document Read(DocumentKind kind, string json) =>
        BlockKinds.Complete(
            kind switch
            {
                DocumentKind.Email => DocumentJson.ReadDocument<Email>(json),
                DocumentKind.Template => DocumentJson.ReadDocument<Template>(json),
                DocumentKind.Row => DocumentJson.ReadDocument<SavedRow>(json),
                DocumentKind.HouseStyle => DocumentJson.ReadDocument<HouseStyle>(json),
                DocumentKind.Snippet => DocumentJson.ReadDocument<Snippet>(json),
                DocumentKind.Audiences => DocumentJson.ReadDocument<AudiencePlan>(json),
                _ => throw new ArgumentOutOfRangeException(nameof(kind)),
            }
        );

    public static string Write(Document document) =>
        document switch
        {
            Email email => DocumentJson.Write(email),
            Template template => DocumentJson.Write(template),
            SavedRow row => DocumentJson.Write(row),
            HouseStyle style => DocumentJson.Write(style),
            Snippet snippet => DocumentJson.Write(snippet),
            AudiencePlan plan => DocumentJson.Write(plan),
            _ => throw new ArgumentOutOfRangeException(nameof(document)),
        };
}

using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Tests;

/// <summary>Whether taking back what was done restores exactly what was, with each inverse as it is stored.</summary>
internal static class Inverses
{
    /// <summary>Makes edits one after the other, passing over those that do not fit, and takes them back in turn.</summary>
    public static bool Restore(Document start, IEnumerable<Func<Document, Edit>> edits)
    {
        var document = start;
        var states = new Stack<(string Json, Edit Inverse)>();
        foreach (var make in edits)
        {
            var edit = make(document);
            try
            {
                var after = edit.Apply(document);
                states.Push((Json(document), RoundTrip(edit.Invert(document))));
                document = after;
            }
            catch (StructureException)
            {
                // It does not fit here; nothing changed.
            }
        }

        while (states.TryPop(out var state))
        {
            document = state.Inverse.Apply(document);
            if (Json(document) != state.Json)
            {
                return false;
            }
        }

        return true;
    }

    public static Edit RoundTrip(Edit edit) => DocumentJson.Read<Edit>(DocumentJson.Write(edit));

    public static string Json(Document document) =>
        System.Text.Json.JsonSerializer.Serialize(document, document.GetType(), DocumentJson.Options);
}

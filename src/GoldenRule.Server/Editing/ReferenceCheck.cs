using GoldenRule.Core.Documents;
using GoldenRule.Data;

namespace GoldenRule.Server.Editing;

/// <summary>
/// The command <c>check-references</c>: says where the table of what uses what differs from the documents, and ends. For whoever
/// keeps the server, after a backup was put back or the database was changed by hand.
/// </summary>
public static class ReferenceCheck
{
    public const string Command = "check-references";

    /// <returns>0: they are the same; 1: they differ, or documents are not read yet.</returns>
    public static async Task<int> RunAsync(GoldenRuleDb db, TextWriter told, CancellationToken cancel)
    {
        var (compared, differ) = (0, 0);
        await foreach (var difference in db.CompareReferencesAsync(Read, done => compared = done, cancel))
        {
            differ++;
            await told.WriteLineAsync(Tell(difference));
        }

        var unread = await db.CountUnreadAsync(cancel);
        await told.WriteLineAsync(
            $"{Counted(compared, "document")} compared, {Counted(differ, "difference")}"
                + (unread > 0 ? $", {Counted(unread, "document")} not read yet: start the server and ask again" : "")
        );
        return differ == 0 && unread == 0 ? 0 : 1;

        Document? Read(DocumentKind kind, string json)
        {
            try
            {
                return StoredForm.Read(kind, json);
            }
            catch (Exception fault)
            {
                told.WriteLine($"A stored {kind} cannot be read: {fault.Message}");
                return null;
            }
        }
    }

    private static string Tell(ReferenceDifference d) =>
        $"{d.Document}{(d.Release == StoredReference.OfHead ? "" : $", release {d.Release}")}: "
        + $"{d.Reference.Kind} {d.Reference.Key}{(d.Reference.Release == 0 ? "" : $", release {d.Reference.Release}")} "
        + $"at {d.Reference.Place} "
        + (d.Missing ? "is missing in the table" : "is in the table only");

    private static string Counted(int count, string what) => $"{count} {what}{(count == 1 ? "" : "s")}";
}

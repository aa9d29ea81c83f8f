using System.Globalization;

namespace GoldenRule.Core.Checking.Checks;

/// <summary>
/// Features that mail clients of many readers leave out and that the compiler provides nothing in place of. What it
/// does provide for is in the report of <see cref="ClientReport"/>, and is no fault.
/// </summary>
public sealed class ClientSupportCheck : Check
{
    /// <summary>Of a hundred readers (common practice, no source).</summary>
    private const double Few = 1;

    public override string Name => "client-support";

    public override string Label => "Features that readers' mail clients leave out";

    public override CheckGroup Group => CheckGroup.Clients;

    public override Severity Usual => Severity.Advise;

    public override string Why =>
        $"What a mail client does not know, its readers do not see ({ClientSupport.Source}, as of {ClientSupport.Dated}).";

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        foreach (var used in ClientReport.Unprovided(inspection).Where(u => u.Missed.Share * 100 >= Few))
        {
            var clients = used.Missed.Clients;
            yield return Found(
                used.Rows.IsEmpty ? Place.Whole : new Place(used.Rows[0]),
                $"{used.Feature.Title} is not known to some mail clients.",
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{used.Missed.Share * 100:0.#} of 100 readers; {clients.Length} clients, "
                        + $"{string.Join(", ", clients.Take(2).Select(c => c.Name))}{(clients.Length > 2 ? " …" : "")}"
                )
            );
        }
    }
}

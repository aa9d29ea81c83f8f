using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class LimitCheck : Check
{
    public override string Name => "limit";

    public override string Why => "The lead set this limit so that the row keeps its shape on every screen. Characters are counted as readers count them (Unicode UAX #29).";

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        from entry in inspection.Blocks
        let block = entry.View.Block
        from limit in block.Master.Limits
        from measured in Measuring.Measure(block.Content[limit.Key], limit.Value, inspection.Email.Pictures)
        where measured.Broken
        select Found(Severity.Stop, new Place(entry.Row.Id, block.Id, limit.Key), Message(Label(block), measured), Evidence(measured));

    private static string Message(string label, Measurement measured) => measured.Of switch
    {
        "width" or "height" => $"The picture in \"{label}\" is too small.",
        "host" => $"\"{label}\" leads to a site that is not on the lead's list.",
        _ => $"\"{label}\" is too long.",
    };

    private static string? Evidence(Measurement measured) => measured.Of switch
    {
        "width" or "height" => $"{measured.Value} px {measured.Of}, at least {measured.Bound}",
        "host" => null,
        _ => $"{measured.Value} {measured.Of}, at most {measured.Bound}",
    };
}

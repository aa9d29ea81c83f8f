namespace GoldenRule.Core.Checking.Checks;

public sealed class MissingPictureCheck : Check
{
    public override string Name => "missing-picture";

    public override string Why => "The row was made for a picture; without one it falls apart.";

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        from entry in inspection.Blocks
        let block = entry.View.Block
        where block.Master.Kind == "picture" && inspection.Email.Pictures.Find(block.Picture("picture")) is null
        select Found(
            Severity.Stop,
            new Place(entry.Row.Id, block.Id, "picture"),
            block.Picture("picture").Length == 0 ? $"\"{Label(block)}\" has no picture yet." : $"The picture of \"{Label(block)}\" is not in the library any more.");
}

namespace GoldenRule.Core.Checking.Checks;

public sealed class FieldFallbackCheck : NodeCheck
{
    public override string Name => "field-fallback";

    public override string Label => "Fields without a fallback";

    public override CheckGroup Group => CheckGroup.Copy;

    public override Severity Usual => Severity.Warn;

    public override string Why => "Of some readers it is not known. They would read a sentence with a gap in it.";

    private protected override Finding? Judge(NodeUse use) =>
        use.MergeField is { Always: false, Fallback: null } field
            ? Found(
                use.Place,
                $"Readers of whom \"{field.Label}\" is not known get nothing here. A lead can give the field a fallback.",
                null,
                use.Remove("Remove it here")
            )
            : null;
}

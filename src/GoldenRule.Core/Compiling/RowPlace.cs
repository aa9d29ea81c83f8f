namespace GoldenRule.Core.Compiling;

/// <summary>Where a row stands in the content area: what lies at its ends carries its border, corners and outer space.</summary>
public enum RowPlace
{
    Between,
    First,
    Last,

    /// <summary>The only row, first and last at once.</summary>
    Alone,
}

public static class RowPlaces
{
    public static RowPlace At(int index, int count) =>
        (index == 0, index == count - 1) switch
        {
            (true, true) => RowPlace.Alone,
            (true, false) => RowPlace.First,
            (false, true) => RowPlace.Last,
            _ => RowPlace.Between,
        };

    public static bool IsFirst(this RowPlace place) => place is RowPlace.First or RowPlace.Alone;

    public static bool IsLast(this RowPlace place) => place is RowPlace.Last or RowPlace.Alone;
}

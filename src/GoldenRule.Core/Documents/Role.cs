namespace GoldenRule.Core.Documents;

/// <summary>What a person does here. A person may have several.</summary>
public enum Role
{
    /// <summary>Governs the house style and the library.</summary>
    Lead,

    /// <summary>Makes rows and templates.</summary>
    Designer,

    /// <summary>Assembles emails.</summary>
    Author,

    /// <summary>Reads, comments and approves; changes nothing.</summary>
    Reviewer,
}

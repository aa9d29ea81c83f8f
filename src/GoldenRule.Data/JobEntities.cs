namespace GoldenRule.Data;

public enum JobState
{
    Waiting,
    Running,
    Done,
    Failed,

    /// <summary>Whoever asked for it needs it no more.</summary>
    Stopped,
}

/// <summary>Long work with its progress and what came out.</summary>
public sealed class StoredJob
{
    public required Guid Id { get; init; }

    /// <summary>Name of the sort of work.</summary>
    public required string Work { get; init; }

    /// <summary>The document it is about; null: the whole library.</summary>
    public Guid? Document { get; init; }

    /// <summary>Which of what the document has it is about, a hand-off for example; null: the document itself.</summary>
    public Guid? Subject { get; init; }

    public required Guid AskedBy { get; init; }

    public required DateTime AskedAt { get; init; }

    public JobState State { get; set; }

    /// <summary>Steps done, of <see cref="Total"/>.</summary>
    public int Done { get; set; }

    /// <summary>0: not known yet.</summary>
    public int Total { get; set; }

    /// <summary>What is being done now, or why it failed.</summary>
    public string Step { get; set; } = "";

    /// <summary>What came out, as a file.</summary>
    public byte[]? Result { get; set; }

    public string? ResultName { get; set; }

    public string? ResultType { get; set; }

    public DateTime? EndedAt { get; set; }
}

/// <summary>What a job found on its way, as it was found.</summary>
public sealed class StoredJobFinding
{
    public required Guid JobId { get; init; }

    /// <summary>From 1 within the job.</summary>
    public required int Sequence { get; init; }

    /// <summary>JSON, as the sort of work has it.</summary>
    public required string Body { get; init; }
}

using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace GoldenRule.Core.Documents;

/// <summary>The three things about a piece that can be changed, each locked on its own.</summary>
public enum Aspect
{
    /// <summary>Move, remove, duplicate, add beside or inside.</summary>
    Arrangement,

    /// <summary>Words, picture, link, visibility.</summary>
    Content,

    /// <summary>Choices among the styles that the lead offers.</summary>
    Look,
}

/// <summary>Who may change one aspect of a piece further down.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(Open), "open")]
[JsonDerivedType(typeof(Reserved), "reserved")]
[JsonDerivedType(typeof(Sealed), "sealed")]
public abstract record Lock
{
    private Lock() { }

    /// <summary>Everyone who may edit the document.</summary>
    public sealed record Open : Lock;

    /// <summary>Only people with one of these roles, those in one of these teams, and these people by id.</summary>
    public sealed record Reserved : Lock
    {
        public ImmutableArray<Role> Roles { get; init; } = [];

        public ImmutableArray<Guid> Teams { get; init; } = [];

        public ImmutableArray<Guid> People { get; init; } = [];
    }

    /// <summary>Nobody, other than in the master itself.</summary>
    public sealed record Sealed : Lock;

    /// <summary>
    /// The lock that holds where two layers both speak. Going down, a lock may only tighten,
    /// so two reservations leave only those whom both name.
    /// </summary>
    public static Lock Tightest(Lock upper, Lock lower) =>
        (upper, lower) switch
        {
            (Sealed, _) or (_, Sealed) => new Sealed(),
            (Open, var other) => other,
            (var other, Open) => other,
            (Reserved a, Reserved b) => Meet(a, b),
            _ => throw new InvalidOperationException("Unknown lock."),
        };

    /// <summary>Whether this lets nobody in whom the other keeps out.</summary>
    public bool IsAsTightAs(Lock upper) =>
        (upper, this) switch
        {
            (Open, _) or (_, Sealed) => true,
            (Reserved a, Reserved b) => b.Roles.All(r => a.Roles.Contains(r))
                && b.Teams.All(t => a.Teams.Contains(t))
                && b.People.All(p => a.People.Contains(p)),
            _ => false,
        };

    private static Lock Meet(Reserved a, Reserved b)
    {
        ImmutableArray<Role> roles = [.. a.Roles.Intersect(b.Roles)];
        ImmutableArray<Guid> teams = [.. a.Teams.Intersect(b.Teams)];
        ImmutableArray<Guid> people = [.. a.People.Intersect(b.People)];
        return roles.IsEmpty && teams.IsEmpty && people.IsEmpty
            ? new Sealed()
            : new Reserved
            {
                Roles = roles,
                Teams = teams,
                People = people,
            };
    }
}

/// <summary>What one piece says about its three aspects; null inherits from the piece around it.</summary>
public sealed record Locks
{
    public static Locks Unset { get; } = new();

    /// <summary>What holds where no piece says anything: fill it in, but leave it where and how it is.</summary>
    public static Locks Root { get; } =
        new()
        {
            Arrangement = new Lock.Sealed(),
            Content = new Lock.Open(),
            Look = new Lock.Sealed(),
        };

    /// <summary>Everything is left to whoever may edit the document.</summary>
    public static Locks Open { get; } =
        new()
        {
            Arrangement = new Lock.Open(),
            Content = new Lock.Open(),
            Look = new Lock.Open(),
        };

    public Lock? Arrangement { get; init; }

    public Lock? Content { get; init; }

    public Lock? Look { get; init; }

    public Lock? this[Aspect aspect] =>
        aspect switch
        {
            Aspect.Arrangement => Arrangement,
            Aspect.Content => Content,
            Aspect.Look => Look,
            _ => throw new ArgumentOutOfRangeException(nameof(aspect)),
        };

    public Locks With(Aspect aspect, Lock? value) =>
        aspect switch
        {
            Aspect.Arrangement => this with { Arrangement = value },
            Aspect.Content => this with { Content = value },
            Aspect.Look => this with { Look = value },
            _ => throw new ArgumentOutOfRangeException(nameof(aspect)),
        };
}

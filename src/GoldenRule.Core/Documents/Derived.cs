using System.Threading;

namespace GoldenRule.Core.Documents;

/// <summary>
/// What is worked out from an object that never changes: once for each sort of it, and kept as long as that object. Its holder
/// stays equal to another that says the same.
/// </summary>
public sealed class Derived : IEquatable<Derived>
{
    // Few sorts of little: a chain that is only added to.
    private Link? newest;

    public T Get<T>(Func<T> make)
        where T : class => Get(make, static from => from());

    /// <param name="from">What it is made from: nothing is captured where it is known already.</param>
    public T Get<T, TFrom>(TFrom from, Func<TFrom, T> make)
        where T : class
    {
        while (true)
        {
            var chain = Volatile.Read(ref newest);
            for (var link = chain; link is not null; link = link.Before)
            {
                if (link.Value is T known)
                {
                    return known;
                }
            }

            var made = make(from);
            if (Interlocked.CompareExchange(ref newest, new Link(made, chain), chain) == chain)
            {
                return made;
            }
        }
    }

    public bool Equals(Derived? other) => other is not null;

    public override bool Equals(object? obj) => obj is Derived;

    public override int GetHashCode() => 0;

    private sealed record Link(object Value, Link? Before);
}

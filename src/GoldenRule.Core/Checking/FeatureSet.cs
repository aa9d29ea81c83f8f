using System.Numerics;
using System.Runtime.CompilerServices;

namespace GoldenRule.Core.Checking;

/// <summary>Some of the features of <see cref="ClientSupport.Features"/>, by their index.</summary>
public struct FeatureSet
{
    private const int Words = 6;

    private Bits bits;

    public readonly bool Contains(int feature) => (bits[feature >> 6] & (1UL << feature)) != 0;

    public void Add(int feature) => bits[feature >> 6] |= 1UL << feature;

    public void Add(in FeatureSet other)
    {
        for (var i = 0; i < Words; i++)
        {
            bits[i] |= other.bits[i];
        }
    }

    public readonly IEnumerable<int> All()
    {
        for (var i = 0; i < Words; i++)
        {
            for (var left = bits[i]; left != 0; left &= left - 1)
            {
                yield return (i << 6) + BitOperations.TrailingZeroCount(left);
            }
        }
    }

    [InlineArray(Words)]
    private struct Bits
    {
        private ulong first;
    }
}

using GoldenRule.Core.Checking;

namespace GoldenRule.Core.Tests;

/// <summary>Flesch–Kincaid: the published formulas, and sentences whose counts are published.</summary>
public sealed class ReadabilityTests
{
    // "The cat sat on the mat." scores 116, the platypus 37.5 with 24 syllables in 13 words, the sentence on itself 69:
    // worked examples of the encyclopaedia article on the tests, from memory.
    [Theory]
    [InlineData("The cat sat on the mat.", 6, 1, 6, 116)]
    [InlineData("The Australian platypus is seemingly a hybrid of a mammal and reptilian creature.", 13, 1, 24, 37.5)]
    [InlineData("This sentence, taken as a reading passage unto itself, is being used to prove a point.", 16, 1, 23, 69)]
    public void Worked_examples_are_met(string text, int words, int sentences, int syllables, double ease)
    {
        var counted = Readability.Measure(text);
        Assert.Equal((words, sentences), (counted.Words, counted.Sentences));
        // Syllables are counted by rule, not by dictionary: within one of the published count.
        Assert.InRange(counted.Syllables, syllables - 1, syllables + 1);
        Assert.Equal(ease, new Readability(words, sentences, syllables).Ease, 0.5);
    }

    // Kincaid et al. 1975: 0.39 × words a sentence + 11.8 × syllables a word − 15.59.
    [Theory]
    [InlineData(100, 5, 150, 9.91)]
    [InlineData(6, 1, 6, -1.45)]
    public void The_grade_is_by_the_published_formula(int words, int sentences, int syllables, double grade) =>
        Assert.Equal(grade, new Readability(words, sentences, syllables).Grade, 2);

    [Theory]
    [InlineData("train", 1)]
    [InlineData("table", 2)]
    [InlineData("rode", 1)]
    [InlineData("walked", 1)]
    [InlineData("wanted", 2)]
    [InlineData("boxes", 2)]
    [InlineData("rides", 1)]
    [InlineData("viaduct", 2)]
    [InlineData("the", 1)]
    [InlineData("tables", 2)]
    [InlineData("heritage", 3)]
    [InlineData("hmm", 1)]
    public void Syllables_are_stretches_of_spoken_vowels(string word, int syllables) =>
        Assert.Equal(syllables, Readability.SyllablesOf(word));

    [Fact]
    public void An_abbreviation_inside_a_word_ends_no_sentence() =>
        Assert.Equal(2, Readability.Measure("Version 2.5 is out. Get it").Sentences);

    /// <summary>
    /// Against another counter that goes by rules and exceptions: npm "syllable" 5.0.1, over words of the CommonMark
    /// specification.
    /// </summary>
    [Fact]
    public void Syllables_are_counted_much_as_another_counter_counts_them()
    {
        var counted = Vectors
            .Read("syllable.csv")
            .Select(v => (Word: v[0], Theirs: (int)Vectors.Number(v[1]), Ours: Readability.SyllablesOf(v[0])))
            .ToList();
        Assert.True(counted.Count > 300);
        Assert.InRange((double)counted.Sum(c => c.Ours) / counted.Sum(c => c.Theirs), 0.97, 1.03);
        Assert.True(
            counted.Count(c => c.Ours == c.Theirs) > counted.Count * 85 / 100,
            $"{counted.Count(c => c.Ours == c.Theirs)} of {counted.Count} alike"
        );
        Assert.All(counted, c => Assert.InRange(c.Ours - c.Theirs, -2, 2));
    }
}

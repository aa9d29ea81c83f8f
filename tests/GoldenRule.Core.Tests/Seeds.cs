using FsCheck.Xunit;

// Every property draws the same cases each time; a failure names the seed of its case besides.
[assembly: Properties(Replay = "20261128,4294967295")]

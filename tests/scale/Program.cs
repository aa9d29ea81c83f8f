using System.Globalization;
using GoldenRule.Scale;

// GoldenRule.Scale CONNECTION EMAILS [SEED]: fills a database that has the demo in it up to that many emails.
if (
    args.Length is < 2 or > 3
    || !int.TryParse(args[1], CultureInfo.InvariantCulture, out var emails)
    || !int.TryParse(args.Length > 2 ? args[2] : "20261128", CultureInfo.InvariantCulture, out var seed)
)
{
    Console.Error.WriteLine("Say the connection, how many emails, and a seed if you like: GoldenRule.Scale CONNECTION 100000 20261128");
    return 1;
}

Console.WriteLine($"{emails:N0} emails, seed {seed}");
var library = new LargeLibrary(args[0], seed);
await library.FillAsync(emails, (done, rate) => Console.WriteLine($"{done:N0} emails, {rate:N0} a second"));
await library.AddLongHistoryAsync(50_000);
Console.WriteLine("one email with 50,000 edits");
return 0;

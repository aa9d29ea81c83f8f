using System.Text.Json;

// The core's share of ./bench. Writes the email it compiles, so that the peers read the same one, and the figures.
var folder = args[0];
var (five, thirty, many, conditional) = (new Work(5), new Work(30), new Work(120), new Work(30, 12));
Directory.CreateDirectory(folder);
await File.WriteAllBytesAsync(Path.Combine(folder, "email.html"), thirty.Html);
var costs = InTurns.Measure(
    ("encode", thirty.EncodeUtf8),
    ("compile", thirty.CompileAll),
    ("checks", thirty.CheckAll),
    ("edit5", five.EditOneRow),
    ("edit30", thirty.EditOneRow),
    ("edit120", many.EditOneRow),
    ("combinations", conditional.CheckEveryCombination),
    ("combinationsAgain", conditional.CheckEveryCombinationAgain)
);
var messages = Messages.Measure(Path.Combine(folder, "message.html"));
await File.WriteAllTextAsync(Path.Combine(folder, "messages.json"), JsonSerializer.Serialize(messages, JsonSerializerOptions.Web));
await File.WriteAllTextAsync(Path.Combine(folder, "costs.json"), JsonSerializer.Serialize(costs, JsonSerializerOptions.Web));

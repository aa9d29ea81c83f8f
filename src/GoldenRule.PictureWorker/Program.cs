using System.Text.Json;
using GoldenRule.PictureWorker;

// One request on the input, one answer on the output, and the process ends. Whoever started it bounds its time and memory,
// and takes the network and the server's files away from it.
// It is made ready before it is asked.
using var output = Console.OpenStandardOutput();
PictureDrawing.WarmUp();
var request = JsonSerializer.Deserialize(Console.OpenStandardInput(), PictureMessages.Default.PictureRequest)!;
var answer = PictureDrawing.Answer(request, overdrawn: () =>
{
    Write(PictureAnswer.Unfit($"\"{request.Name}\" takes too long to open. Draw it with fewer parts and effects, or save it as a PNG."));
    Environment.Exit(0);
});
Write(answer);
return 0;

void Write(PictureAnswer said)
{
    JsonSerializer.Serialize(output, said, PictureMessages.Default.PictureAnswer);
    output.Flush();
}

using System.Text.Json;
using Aerarium.Reader;

// Reads one file from outside, given on standard input, and answers on standard output. It runs as a process of its own, with limits of time and
// memory set by whoever starts it; whatever a hostile file does to it ends with it.
using var input = Console.OpenStandardInput();
using var memory = new MemoryStream();
input.CopyTo(memory);
ReadAnswer answer;
try
{
    answer = args switch
    {
        ["table"] => new ReadAnswer(null, TableFile.Read(memory.ToArray()), null),
        ["sheets"] => new ReadAnswer(null, null, null, TableFile.Sheets(memory.ToArray())),
        ["pages"] => new ReadAnswer(null, null, PdfPages.Of(memory)),
        _ => throw new UnreadableException("Usage: table, sheets or pages, with the file on standard input."),
    };
}
catch (UnreadableException problem)
{
    answer = new ReadAnswer(problem.Message, null, null);
}

using var output = Console.OpenStandardOutput();
JsonSerializer.Serialize(output, answer, ReadAnswerJson.Default.ReadAnswer);

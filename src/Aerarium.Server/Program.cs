using Aerarium.Server;
using Aerarium.Storage;

if (args is ["restore", ..])
{
    return args is [_, var file, var folder] ? Restore(file, folder) : Tell("Usage: restore BACKUP FOLDER", 2);
}

ServerApplication.Build(args).Run();
return 0;

static int Restore(string file, string folder)
{
    try
    {
        var contents = Backups.Restore(file, folder);
        Console.WriteLine($"Restored and found whole: {contents.Returns} returns of {contents.Clients} clients, {contents.Acts} acts. Start the server with --Data {folder}.");
        return 0;
    }
    catch (Exception problem) when (problem is IOException or InvalidDataException or UnauthorizedAccessException)
    {
        return Tell(problem.Message, 1);
    }
}

static int Tell(string words, int code)
{
    Console.Error.WriteLine(words);
    return code;
}

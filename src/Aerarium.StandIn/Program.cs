using Aerarium.StandIn;

try
{
    StandInApplication.Build(args).Run();
    return 0;
}
catch (Exception problem) when (problem is IOException or UnauthorizedAccessException)
{
    Console.Error.WriteLine(problem.Message);
    return 1;
}

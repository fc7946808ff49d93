using Aerarium.Cli;

return args switch
{
    ["compute", var file] => ComputeCommand.Run(file, Console.In, Console.Out, Console.Error),
    ["lines", var id, var year] => LinesCommand.Run(id, year, Console.Out, Console.Error),
    _ => Usage(),
};

static int Usage()
{
    Console.Error.WriteLine("""
        Usage:
          compute FILE          computes one case, or an array of cases, of entries ('-' reads standard input)
          lines RETURN YEAR     lists every line of a return
        """);
    return 2;
}

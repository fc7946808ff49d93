using Aerarium.Cli;
using Aerarium.Core.Definitions;

return args switch
{
    ["compute", var file] => ComputeCommand.Run(file, each: false, Console.In, Console.Out, Console.Error),
    ["compute", var file, "--each"] => ComputeCommand.Run(file, each: true, Console.In, Console.Out, Console.Error),
    ["lines", var id, var year] => LinesCommand.Run(id, year, Periods.WholeYear, Console.Out, Console.Error),
    ["lines", var id, var year, var period] => LinesCommand.Run(id, year, period, Console.Out, Console.Error),
    ["law", var id, var year] => LawCommand.Run(id, year, Periods.WholeYear, document: false, Console.Out, Console.Error),
    ["law", var id, var year, "--document"] => LawCommand.Run(id, year, Periods.WholeYear, document: true, Console.Out, Console.Error),
    ["law", var id, var year, var period] => LawCommand.Run(id, year, period, document: false, Console.Out, Console.Error),
    ["law", var id, var year, var period, "--document"] => LawCommand.Run(id, year, period, document: true, Console.Out, Console.Error),
    ["verify", var file] => VerifyCommand.Run(file, Console.Out, Console.Error),
    _ => Usage(),
};

static int Usage()
{
    Console.Error.WriteLine("""
        Usage:
          compute FILE [--each] computes one case, or an array of cases, of entries ('-' reads standard input)
          lines RETURN YEAR [PERIOD]  lists every line of a return
          law RETURN YEAR [PERIOD] [--document]  prints the figures of the law as JSON, or all rules as a page of HTML
          verify PARCEL         verifies the Parcel of a filed return, on its own
        """);
    return 2;
}

using Aerarium.StandIn;

StandInApplication.Build(args).Run();

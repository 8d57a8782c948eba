package dev.mockbell.cli;

import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

/** What concerns load from many machines. */
@Command(
        name = "grid",
        mixinStandardHelpOptions = true,
        description = "Load from many machines: invites workers.",
        synopsisSubcommandLabel = "COMMAND")
final class GridCommand implements Runnable {
    @Spec
    private CommandSpec spec;

    @Override
    public void run() {
        throw new CommandLine.ParameterException(spec.commandLine(), "A command is needed.");
    }
}

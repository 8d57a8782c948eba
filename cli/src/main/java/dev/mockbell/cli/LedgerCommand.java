package dev.mockbell.cli;

import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

/** What the commands on the ledger stand under. */
@Command(
        name = "ledger",
        mixinStandardHelpOptions = true,
        description = "Lists, shows, writes out, takes in and prunes what was recorded.",
        synopsisSubcommandLabel = "COMMAND")
final class LedgerCommand implements Runnable {
    @Spec
    private CommandSpec spec;

    @Override
    public void run() {
        throw new CommandLine.ParameterException(spec.commandLine(), "A command is needed.");
    }
}

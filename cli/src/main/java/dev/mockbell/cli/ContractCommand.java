package dev.mockbell.cli;

import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

/** What concerns contracts. */
@Command(
        name = "contract",
        mixinStandardHelpOptions = true,
        description = "Imports, shows, samples and judges WSDLs.",
        synopsisSubcommandLabel = "COMMAND")
final class ContractCommand implements Runnable {
    @Spec
    private CommandSpec spec;

    @Override
    public void run() {
        throw new CommandLine.ParameterException(spec.commandLine(), "A command is needed after contract.");
    }
}

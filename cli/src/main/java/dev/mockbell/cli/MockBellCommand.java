package dev.mockbell.cli;

import dev.mockbell.assembly.Core;
import dev.mockbell.fleet.Fleet;
import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Supplier;
import org.slf4j.LoggerFactory;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

/** The program's command line. */
@Command(
        name = "mockbell",
        mixinStandardHelpOptions = true,
        version = "Mock Bell " + Core.VERSION,
        description = "Calls, checks, mocks, watches and loads web services described by a WSDL.",
        synopsisSubcommandLabel = "COMMAND",
        footer = {
            "",
            "Without a command the window opens. MOCKBELL_OPTS is passed to the JVM.",
            "Exit codes: 0 done, 1 the answer is no, 2 wrong usage or unreadable input, 3 fault, 4 no answer, 70 a defect."
        })
public final class MockBellCommand implements Runnable {
    @Spec
    private CommandSpec spec;

    @Override
    public void run() {
        throw new CommandLine.ParameterException(spec.commandLine(), "A command is needed.");
    }

    /** The command line with all its subcommands, for a program that makes load alone. */
    public static CommandLine commandLine(Console console) {
        return commandLine(console, List.of(), MockBellCommand::alone);
    }

    private static Fleet alone() {
        throw Problem.input("This program makes load alone", null, null);
    }

    /**
     * The command line for these arguments: where they name a subcommand, with that one alone, as working out what every
     * command takes costs a small command a quarter of its time.
     *
     * @param fleet what makes load on many machines; asked for only where that is wanted
     * @param more subcommands of other modules
     */
    public static CommandLine commandLine(
            Console console, List<String> arguments, Supplier<Fleet> fleet, Object... more) {
        CommandLine line = new CommandLine(new MockBellCommand());
        List<Object> all = new ArrayList<>(List.of(
                new ContractCommand(),
                new CallCommand(console),
                new CheckCommand(console),
                new MockCommand(console),
                new TapCommand(console),
                new ProxyCommand(console),
                new LedgerCommand(),
                new LoadCommand(console, fleet),
                new GridCommand(),
                new WorkerCommand(console, fleet),
                new GuideCommand(console)));
        all.addAll(List.of(more));
        for (Object command : named(all, arguments, 0)) {
            CommandLine sub = new CommandLine(command);
            if (command instanceof ContractCommand) {
                List<Object> ofContract = List.of(
                        new ContractImportCommand(console),
                        new ContractShowCommand(console),
                        new ContractSampleCommand(console),
                        new ContractLintCommand(console),
                        new ContractExportCommand(console),
                        new ContractDiffCommand(console),
                        new ContractUpdateCommand(console),
                        new ContractFindCommand(console),
                        new ContractWriteCommand(console));
                named(ofContract, arguments, 1).forEach(sub::addSubcommand);
            }
            if (command instanceof GridCommand) {
                sub.addSubcommand(new GridInviteCommand(console));
            }
            if (command instanceof LedgerCommand) {
                List<Object> ofLedger = List.of(
                        new LedgerListCommand(console),
                        new LedgerShowCommand(console),
                        new LedgerExportCommand(console),
                        new LedgerImportCommand(console),
                        new LedgerPruneCommand(console));
                named(ofLedger, arguments, 1).forEach(sub::addSubcommand);
            }
            line.addSubcommand(sub);
        }
        line.setCaseInsensitiveEnumValuesAllowed(true);
        line.setOut(new java.io.PrintWriter(console.out(), true));
        line.setErr(new java.io.PrintWriter(console.err(), true));
        line.setExecutionExceptionHandler((e, command, parsed) -> failed(e, console));
        line.setParameterExceptionHandler((e, args) -> {
            String text = e.getMessage().lines().findFirst().orElse("Wrong usage.");
            console.note(text + (text.endsWith(".") ? "" : ".") + " Try “"
                    + e.getCommandLine().getCommandSpec().qualifiedName() + " --help”.");
            return 2;
        });
        if (System.getenv("NO_COLOR") != null || System.console() == null) {
            line.setColorScheme(CommandLine.Help.defaultColorScheme(CommandLine.Help.Ansi.OFF));
        }
        return line;
    }

    /** The command that the argument at that position names; all of them when it names none. */
    private static List<Object> named(List<Object> commands, List<String> arguments, int position) {
        if (arguments.size() > position) {
            for (Object command : commands) {
                if (command.getClass().getAnnotation(Command.class).name().equals(arguments.get(position))) {
                    return List.of(command);
                }
            }
        }
        return commands;
    }

    private static int failed(Exception e, Console console) {
        if (e instanceof Problem problem) {
            console.note(problem.getMessage());
            return problem.kind().exitCode();
        }
        LoggerFactory.getLogger(MockBellCommand.class).error("a command failed", e);
        console.note("A defect of Mock Bell: "
                + e.getClass().getSimpleName().replaceAll("Exception$", "").toLowerCase(Locale.ROOT) + ", "
                + Problem.reason(e) + ". The log has the details.");
        return 70;
    }
}

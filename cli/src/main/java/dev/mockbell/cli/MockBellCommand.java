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
        List<Made> all = new ArrayList<>(List.of(
                Made.of(ContractCommand.class, ContractCommand::new),
                Made.of(CallCommand.class, () -> new CallCommand(console)),
                Made.of(CheckCommand.class, () -> new CheckCommand(console)),
                Made.of(MockCommand.class, () -> new MockCommand(console)),
                Made.of(TapCommand.class, () -> new TapCommand(console)),
                Made.of(ProxyCommand.class, () -> new ProxyCommand(console)),
                Made.of(LedgerCommand.class, LedgerCommand::new),
                Made.of(LoadCommand.class, () -> new LoadCommand(console, fleet)),
                Made.of(GridCommand.class, GridCommand::new),
                Made.of(WorkerCommand.class, () -> new WorkerCommand(console, fleet)),
                Made.of(GuideCommand.class, () -> new GuideCommand(console))));
        for (Object command : more) {
            all.add(Made.of(command.getClass(), () -> command));
        }
        for (Made made : named(all, arguments, 0)) {
            CommandLine sub = new CommandLine(made.maker().get());
            named(inner(made.type(), console), arguments, 1)
                    .forEach(m -> sub.addSubcommand(m.maker().get()));
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

    /** A command that is made when it is wanted: what all of them take costs a small one a good part of its time. */
    private record Made(Class<?> type, Supplier<Object> maker) {
        static <T> Made of(Class<T> type, Supplier<?> maker) {
            return new Made(type, maker::get);
        }

        String name() {
            return type.getAnnotation(Command.class).name();
        }
    }

    /** What stands below a command. */
    private static List<Made> inner(Class<?> command, Console console) {
        if (command == ContractCommand.class) {
            return List.of(
                    Made.of(ContractImportCommand.class, () -> new ContractImportCommand(console)),
                    Made.of(ContractShowCommand.class, () -> new ContractShowCommand(console)),
                    Made.of(ContractSampleCommand.class, () -> new ContractSampleCommand(console)),
                    Made.of(ContractLintCommand.class, () -> new ContractLintCommand(console)),
                    Made.of(ContractExportCommand.class, () -> new ContractExportCommand(console)),
                    Made.of(ContractDiffCommand.class, () -> new ContractDiffCommand(console)),
                    Made.of(ContractUpdateCommand.class, () -> new ContractUpdateCommand(console)),
                    Made.of(ContractFindCommand.class, () -> new ContractFindCommand(console)),
                    Made.of(ContractWriteCommand.class, () -> new ContractWriteCommand(console)));
        }
        if (command == LedgerCommand.class) {
            return List.of(
                    Made.of(LedgerListCommand.class, () -> new LedgerListCommand(console)),
                    Made.of(LedgerShowCommand.class, () -> new LedgerShowCommand(console)),
                    Made.of(LedgerExportCommand.class, () -> new LedgerExportCommand(console)),
                    Made.of(LedgerImportCommand.class, () -> new LedgerImportCommand(console)),
                    Made.of(LedgerPruneCommand.class, () -> new LedgerPruneCommand(console)));
        }
        return command == GridCommand.class
                ? List.of(Made.of(GridInviteCommand.class, () -> new GridInviteCommand(console)))
                : List.of();
    }

    /** The command that the argument at that position names; all of them when it names none. */
    private static List<Made> named(List<Made> commands, List<String> arguments, int position) {
        if (arguments.size() > position) {
            for (Made command : commands) {
                if (command.name().equals(arguments.get(position))) {
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

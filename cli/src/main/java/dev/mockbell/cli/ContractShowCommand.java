package dev.mockbell.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Finding;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.Service;
import dev.mockbell.problem.Counted;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.KeptContract;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Shows what contracts offer. */
@Command(
        name = "show",
        mixinStandardHelpOptions = true,
        description = "Shows services, ports, operations and findings of WSDLs or of a project's contracts.")
final class ContractShowCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(paramLabel = "WSDL|PROJECT", arity = "1..*", description = "Addresses, files or project folders.")
    private List<String> sources;

    @Option(names = "--json", description = "As JSON; several sources give a list.")
    private boolean json;

    @Mixin
    private Reading reading = new Reading();

    ContractShowCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        int worst = 0;
        List<Shown> all = new ArrayList<>();
        try (CommandCore core = new CommandCore(reading)) {
            for (String source : sources) {
                try {
                    contracts(core, source).forEach(c -> {
                        all.add(new Shown(source, Optional.of(c), ""));
                        if (!json) {
                            print(c);
                        }
                    });
                } catch (Problem problem) {
                    console.note(problem.getMessage());
                    worst = Math.max(worst, problem.kind().exitCode());
                    if (sources.size() > 1) {
                        all.add(new Shown(source, Optional.empty(), problem.getMessage()));
                    }
                }
            }
        }
        if (json && !all.isEmpty()) {
            printJson(all);
        }
        return worst;
    }

    /** What a source came to. */
    private record Shown(String source, Optional<Contract> contract, String problem) {}

    /** Apart, since the libraries for it take a good part of the command's time. */
    private void printJson(List<Shown> all) {
        ArrayNode list = JsonNodeFactory.instance.arrayNode();
        for (Shown shown : all) {
            if (shown.contract().isPresent()) {
                list.add(ContractJson.of(shown.contract().get()));
            } else {
                list.addObject().put("format", 1).put("source", shown.source()).put("problem", shown.problem());
            }
        }
        console.json(list.size() == 1 && sources.size() == 1 ? list.get(0) : list);
    }

    private List<Contract> contracts(CommandCore core, String source) {
        return core.project(source)
                .map(p -> {
                    p.troubles().forEach(console::note);
                    return p.contracts().stream().map(KeptContract::contract).toList();
                })
                .orElseGet(() -> List.of(core.contract(source)));
    }

    private void print(Contract contract) {
        console.line(contract.source() + " (WSDL " + contract.wsdl() + ", "
                + Counted.of(contract.documents().size(), "document") + ")");
        for (Service service : contract.services()) {
            console.line("service " + service.name().getLocalPart());
            for (Port port : service.ports()) {
                console.line("  port " + port.name() + " ("
                        + port.binding().title() + ") at "
                        + port.address().orElse("no address"));
                for (Operation operation : port.binding().operations()) {
                    console.line("    " + named(operation) + describe(operation));
                }
            }
        }
        for (var binding : contract.unusedBindings()) {
            console.line("binding " + binding.name().getLocalPart() + " (" + binding.title() + ", no port uses it)");
            for (Operation operation : binding.operations()) {
                console.line("    " + named(operation) + describe(operation));
            }
        }
        for (Finding finding : contract.findings()) {
            console.line(finding.severity().name().toLowerCase(Locale.ROOT) + " " + finding.rule() + ": "
                    + finding.text() + " (" + finding.place() + ")");
        }
    }

    private static String named(Operation operation) {
        return operation.key().isBlank() ? "(an operation without a name)" : operation.key();
    }

    private static String describe(Operation operation) {
        List<String> words = new ArrayList<>();
        operation
                .style()
                .ifPresent(s -> words.add(s.name().toLowerCase(Locale.ROOT) + "/"
                        + operation
                                .use()
                                .map(u -> u.name().toLowerCase(Locale.ROOT))
                                .orElse("literal")));
        if (operation.pattern() != Operation.Pattern.REQUEST_RESPONSE) {
            words.add(operation.pattern().code());
        }
        if (!operation.needs().isEmpty()) {
            words.add("needs " + String.join(", ", operation.needs()));
        }
        if (!operation.faults().isEmpty()) {
            words.add("faults " + operation.faults().stream().map(f -> f.name()).collect(Collectors.joining(", ")));
        }
        return words.isEmpty() ? "" : "  " + String.join(", ", words);
    }
}

package dev.mockbell.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Finding;
import dev.mockbell.problem.Problem;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Judges contracts. */
@Command(
        name = "lint",
        mixinStandardHelpOptions = true,
        description = "Lists the findings of WSDLs; exit code 1 when one of them is an error.")
final class ContractLintCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(paramLabel = "WSDL", arity = "1..*", description = "Addresses or files.")
    private List<String> sources;

    @Option(names = "--json", description = "As JSON, an object for each source.")
    private boolean json;

    @Mixin
    private Reading reading = new Reading();

    ContractLintCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        int worst = 0;
        ArrayNode all = JsonNodeFactory.instance.arrayNode();
        try (CommandCore core = new CommandCore(reading)) {
            for (String source : sources) {
                worst = Math.max(worst, judge(core, source, all.addObject().put("source", source)));
            }
        }
        if (json) {
            console.json(all);
        }
        return worst;
    }

    private int judge(CommandCore core, String source, ObjectNode one) {
        Contract contract;
        try {
            contract = core.contract(source);
        } catch (Problem problem) {
            console.note(problem.getMessage());
            one.put("problem", problem.getMessage());
            return problem.kind().exitCode();
        }
        ArrayNode list = one.putArray("findings");
        for (Finding finding : contract.findings()) {
            ContractJson.finding(finding, list.addObject());
            if (!json) {
                console.line(finding.place() + ": "
                        + finding.severity().name().toLowerCase(Locale.ROOT) + " " + finding.rule() + ": "
                        + finding.text() + ". " + finding.advice());
            }
        }
        if (!json && contract.findings().isEmpty()) {
            console.line(source + ": no findings");
        }
        return contract.findings().stream().anyMatch(f -> f.severity() == Finding.Severity.ERROR) ? 1 : 0;
    }
}

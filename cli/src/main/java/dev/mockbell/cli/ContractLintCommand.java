package dev.mockbell.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Finding;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
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

    ContractLintCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        boolean errors = false;
        ArrayNode all = JsonNodeFactory.instance.arrayNode();
        try (Core core = new Core()) {
            for (String source : sources) {
                Contract contract = core.contract(source);
                ObjectNode one = all.addObject().put("source", source);
                ArrayNode list = one.putArray("findings");
                for (Finding finding : contract.findings()) {
                    errors |= finding.severity() == Finding.Severity.ERROR;
                    ContractJson.finding(finding, list.addObject());
                    if (!json) {
                        console.line(finding.place() + ": "
                                + finding.severity().name().toLowerCase(Locale.ROOT) + " " + finding.rule() + ": "
                                + finding.text() + " " + finding.advice());
                    }
                }
                if (!json && contract.findings().isEmpty()) {
                    console.line(source + ": no findings");
                }
            }
        }
        if (json) {
            console.json(all);
        }
        return errors ? 1 : 0;
    }
}

package dev.mockbell.cli;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Export;
import dev.mockbell.contract.Export.Form;
import dev.mockbell.contract.Readdress;
import dev.mockbell.contract.Rewriting;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.ExportFile;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Writes a contract's documents out again. */
@Command(
        name = "export",
        mixinStandardHelpOptions = true,
        description =
                "Writes a contract as a folder, a .zip or, with schemas inside, as one .wsdl, at a chosen address.")
final class ContractExportCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(paramLabel = "WSDL|PROJECT", description = "Address, file or project folder.")
    private String source;

    @Option(
            names = "--out",
            paramLabel = "PATH",
            required = true,
            description = "A folder, or a file that ends in .zip or .wsdl.")
    private Path out;

    @Option(names = "--contract", paramLabel = "NAME", description = "Which contract of the project.")
    private String name;

    @Option(names = "--host", paramLabel = "HOST", description = "Host of every port's address.")
    private String host;

    @Option(names = "--port", paramLabel = "N", description = "Port number of every port's address.")
    private Integer port;

    @Option(names = "--path", paramLabel = "PATH", description = "Path of every port's address.")
    private String path;

    @Option(names = "--protocol", paramLabel = "http|https", description = "Protocol of every port's address.")
    private String protocol;

    @Option(
            names = "--namespace",
            paramLabel = "[OLD=]NEW",
            description = "What the WSDL's namespace becomes, or another one; may be repeated.")
    private List<String> namespaces = List.of();

    @Option(names = "--service", paramLabel = "NAME", description = "The name of the service.")
    private String service;

    @Option(names = "--as-fetched", description = "Byte for byte, imports and addresses as they are.")
    private boolean asFetched;

    @Mixin
    private Reading reading = new Reading();

    ContractExportCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        try (CommandCore core = new CommandCore(reading)) {
            Contract contract = contract(core);
            Readdress address = new Readdress(
                    Optional.ofNullable(host), Optional.ofNullable(port), Optional.ofNullable(path), protocol());
            boolean single = out.toString().endsWith(".wsdl");
            boolean named = service != null || !namespaces.isEmpty();
            if (asFetched && (single || named || !address.isEmpty())) {
                throw Problem.input(
                        "Documents as they were fetched keep their imports and addresses",
                        null,
                        "Leave out --as-fetched, or export to a folder or .zip without an address.");
            }
            Form form = asFetched ? Form.AS_FETCHED : single ? Form.SINGLE : Form.REWRITTEN;
            Map<String, byte[]> files = Export.files(
                    contract, form, Rewriting.of(contract, address, namespaces, service == null ? "" : service));
            List<Path> written = ExportFile.write(out, files);
            written.forEach(w -> console.line(w.toString()));
            return 0;
        }
    }

    private Optional<String> protocol() {
        if (protocol != null && !protocol.matches("https?")) {
            throw Problem.input(
                    "“" + protocol + "” is no protocol of an address here", "--protocol", "Give http or https.");
        }
        return Optional.ofNullable(protocol);
    }

    private Contract contract(CommandCore core) {
        return core.project(source).map(p -> Kept.of(p, name).contract()).orElseGet(() -> core.contract(source));
    }
}

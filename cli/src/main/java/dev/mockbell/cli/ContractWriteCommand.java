package dev.mockbell.cli;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Finding;
import dev.mockbell.problem.Counted;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.ExportFile;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.Names;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.written.Flaw;
import dev.mockbell.written.PastedTable;
import dev.mockbell.written.SampleFields;
import dev.mockbell.written.WrittenContract;
import dev.mockbell.written.WrittenDocuments;
import dev.mockbell.written.WrittenOperation;
import dev.mockbell.written.WrittenPart;
import dev.mockbell.written.WrittenRow;
import dev.mockbell.written.WrittenRows;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Makes a contract of a table or of sample messages. */
@Command(
        name = "write",
        mixinStandardHelpOptions = true,
        description = {
            "Makes a WSDL and its schema of a table of operations and fields, or of sample messages of XML or JSON.",
            "Exit code 1 when something in the table cannot be so; it is said with its row."
        })
final class ContractWriteCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(
            paramLabel = "FILE",
            arity = "1..*",
            description = "A table with tabs, commas or semicolons (.csv, .tsv, .txt), or samples (.xml, .json).")
    private List<Path> files;

    @Option(names = "--title", paramLabel = "TEXT", description = "What it is called; the first file's name otherwise.")
    private String title;

    @Option(names = "--out", paramLabel = "PATH", description = "A folder or a .zip for the documents.")
    private Path out;

    @Option(names = "--project", paramLabel = "DIR", description = "Keeps it in a project, to be changed there later.")
    private Path project;

    @Option(names = "--namespace", paramLabel = "URI", description = "Of its messages and its WSDL.")
    private String namespace;

    @Option(names = "--service", paramLabel = "NAME", description = "The name of the service.")
    private String service;

    @Option(names = "--address", paramLabel = "URL", description = "Where the service will be.")
    private String address;

    @Option(names = "--soap", paramLabel = "VERSION", split = ",", description = "1.1, 1.2 or both (1.1,1.2).")
    private Set<String> soap = Set.of("1.1", "1.2");

    ContractWriteCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        if (out == null && project == null) {
            throw Problem.input("It is not told where it goes", null, "Give --out PATH or --project DIR.");
        }
        List<WrittenRow> rows = new ArrayList<>();
        files.forEach(f -> rows.addAll(rows(f)));
        String name = title == null ? files.get(0).getFileName().toString().replaceAll("\\.[^.]*$", "") : title;
        List<WrittenOperation> operations = WrittenRows.operations(rows);
        boolean samples = files.stream().allMatch(ContractWriteCommand::isSample);
        WrittenContract written =
                chosen(WrittenContract.named(name)).with(samples ? WrittenRows.merged(operations) : operations);
        WrittenDocuments made = WrittenDocuments.of(written);
        List<WrittenRow> shown = WrittenRows.of(written);
        for (Flaw flaw : made.flaws()) {
            console.note((flaw.row() < 0
                            ? ""
                            : "row " + (flaw.row() + 1) + ", "
                                    + shown.get(flaw.row()).name() + ": ")
                    + flaw.text());
        }
        Contract contract = made.read(new dev.mockbell.task.StopSignal());
        for (Finding finding : contract.findings()) {
            console.note(finding.text() + " (" + finding.place() + ")");
        }
        if (out != null) {
            ExportFile.write(out, made.files()).forEach(p -> console.line(p.toString()));
        }
        if (project != null) {
            keep(name, written, made);
        }
        return made.flaws().isEmpty() ? 0 : 1;
    }

    private void keep(String name, WrittenContract written, WrittenDocuments made) {
        Path folder = project.toAbsolutePath().normalize();
        ProjectStore store = new ProjectStore();
        store.create(folder, String.valueOf(folder.getFileName()));
        KeptContract kept = store.saveWritten(folder, Names.of(name), name, written, made, Instant.now());
        console.line("Kept " + kept.name() + " in " + folder + ": "
                + Counted.of(kept.contract().operations().size(), "operation") + ".");
    }

    private WrittenContract chosen(WrittenContract usual) {
        if (soap.isEmpty() || !Set.of("1.1", "1.2").containsAll(soap)) {
            throw Problem.input(
                    "There is no such version of SOAP: " + String.join(", ", soap), "--soap", "Give 1.1, 1.2 or both.");
        }
        WrittenContract made = usual.speaking(soap.contains("1.1"), soap.contains("1.2"));
        made = namespace == null ? made : made.withNamespace(namespace);
        made = service == null ? made : made.withService(service);
        return address == null ? made : made.withAddress(address);
    }

    private static boolean isSample(Path file) {
        return file.toString().matches("(?i).*\\.(xml|json)");
    }

    /** Rows of a table; a sample is what an operation of its name takes or gives. */
    private static List<WrittenRow> rows(Path file) {
        String text;
        try {
            text = Files.readString(file);
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The file cannot be read: " + Problem.reason(e),
                    file.toString(),
                    "Give UTF-8 text.",
                    e);
        }
        if (!isSample(file)) {
            return PastedTable.read(text);
        }
        SampleFields sample = SampleFields.of(text);
        String base = file.getFileName().toString().replaceAll("\\.[^.]*$", "");
        SampleFields named = sample.root().isEmpty() ? new SampleFields(base, sample.fields()) : sample;
        List<WrittenRow> rows = new ArrayList<>();
        rows.add(WrittenRow.operation(named.operation(), false, ""));
        rows.add(WrittenRow.part(named.isAnswer() ? WrittenPart.Kind.GIVES : WrittenPart.Kind.TAKES, ""));
        rows.addAll(WrittenRows.of(named.fields(), 0));
        return rows;
    }
}

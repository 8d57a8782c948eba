package dev.mockbell.grid;

import dev.mockbell.check.Check;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.Contracts;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.expression.Variable;
import dev.mockbell.load.Conduct;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadShape;
import dev.mockbell.project.Environment;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Stays;
import dev.mockbell.suite.Suite;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.net.URI;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;

/** A project in a folder whose one case books a stay. */
final class StayProject {
    private StayProject() {}

    /**
     * @param endpoint where it goes
     * @param body of the request
     */
    static Path in(Path folder, String endpoint, String body, List<Variable> variables) {
        ProjectStore store = new ProjectStore();
        Project project = store.create(folder, "Northfell");
        store.saveContract(folder, "stay", "Stay", contract(), Instant.EPOCH);
        Case kept = Stays.book("book", body, List.of(new Check.NoFault()));
        store.saveCase(folder, kept);
        Suite suite = Stays.suite(kept);
        store.saveSuite(folder, suite);
        Environment test = new Environment("Test", Map.of("stay/StaySoap11", endpoint), variables);
        store.saveSettings(project.with(project.settings().withEnvironments(List.of(test), "Test")));
        return folder;
    }

    /** The stay contract, which may lie in a jar. */
    private static Contract contract() {
        DocumentFetcher resources = (uri, stop) -> {
            try (InputStream in = Contracts.class.getResourceAsStream(uri.getPath())) {
                return new DocumentFetcher.Fetched(uri, in.readAllBytes(), "");
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        };
        URI uri = URI.create("mem:/contracts/stay.wsdl");
        return new ContractReader(resources).read("stay.wsdl", uri, Progress.NONE, new StopSignal());
    }

    static LoadPlan plan(LoadShape shape) {
        return LoadPlan.of("p", "P", "s", shape).with(Conduct.USUAL.withTimeout(3_000));
    }
}

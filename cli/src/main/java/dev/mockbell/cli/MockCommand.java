package dev.mockbell.cli;

import dev.mockbell.contract.Contract;
import dev.mockbell.exchange.Ledger;
import dev.mockbell.mock.MockEvent;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.MockRecorder;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.LocalProject;
import dev.mockbell.project.Names;
import dev.mockbell.project.Project;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.CountDownLatch;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Stands in for a service until stopped. */
@Command(
        name = "mock",
        mixinStandardHelpOptions = true,
        description = "Answers for a contract until stopped. Prints a line READY ADDRESS WSDL-ADDRESS for each port.")
final class MockCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(paramLabel = "WSDL|PROJECT", description = "Address, file or project folder.")
    private String source;

    @Option(names = "--port", paramLabel = "N", description = "The port to listen on; 0 for any free one.")
    private Integer port;

    @Option(names = "--host", paramLabel = "H", description = "The address to listen on; loopback unless given.")
    private String host;

    @Mixin
    private Reading reading = new Reading();

    MockCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() throws InterruptedException {
        CommandCore core = new CommandCore(reading);
        List<MockHost> hosts = new ArrayList<>();
        CountDownLatch stopped = new CountDownLatch(1);
        Optional<Project> project = core.project(source);
        project.ifPresent(p -> p.troubles().forEach(console::note));
        Optional<Ledger> ledger = project.map(p -> core.ledger(p, console));
        try {
            for (MockPlan plan : plans(core, project)) {
                Contract contract = contracts.get(plan.contract());
                hosts.add(MockHost.start(
                        contract,
                        plan,
                        core.parts().loops(),
                        core.parts().expressions(),
                        ledger.map(l -> (MockRecorder) l::offerMade).orElse(null),
                        this::told));
            }
        } catch (Problem problem) {
            hosts.forEach(MockHost::close);
            ledger.ifPresent(Ledger::close);
            core.close();
            throw problem;
        }
        for (MockHost mock : hosts) {
            mock.addresses().values().stream()
                    .distinct()
                    .forEach(address -> console.line("READY " + address + " " + address + "?wsdl"));
        }
        Runtime.getRuntime().addShutdownHook(new Thread(() -> {
            hosts.forEach(MockHost::close);
            ledger.ifPresent(Ledger::close);
            core.close();
            stopped.countDown();
        }));
        stopped.await();
        return 0;
    }

    private final java.util.Map<String, Contract> contracts = new java.util.LinkedHashMap<>();

    private void told(MockEvent event) {
        if (!event.matched()) {
            console.note("unmatched: " + event.why());
        }
    }

    private List<MockPlan> plans(CommandCore core, Optional<Project> project) {
        List<MockPlan> plans = new ArrayList<>();
        if (project.isEmpty()) {
            Contract contract = core.contract(source);
            String name = Names.of(contract.title());
            contracts.put(name, contract);
            plans.add(placed(MockPlan.sampling(name, MockPlan.USUAL_PORT), 0));
        } else {
            List<KeptContract> kept = project.get().contracts();
            for (KeptContract k : kept) {
                if (kept.size() > 1 && k.contract().httpPorts().isEmpty()) {
                    console.note(k.title() + " has no mock: none of its ports is spoken as SOAP over HTTP.");
                    continue;
                }
                contracts.put(k.name(), k.contract());
                int number = plans.size();
                plans.add(placed(
                        project.get()
                                .mock(k.name())
                                .orElseGet(() -> MockPlan.sampling(k.name(), MockPlan.USUAL_PORT + number)),
                        number));
            }
            LocalProject local = core.parts().locals().of(project.get().folder());
            if (host == null) {
                plans.forEach(p -> local.checkListening(p.host()));
            }
            if (plans.isEmpty()) {
                throw Problem.input("The project has no contract to mock", source, "Import one first.");
            }
        }
        return plans;
    }

    private MockPlan placed(MockPlan plan, int number) {
        MockPlan at = host == null ? plan : plan.withHost(host);
        return port == null ? at : at.withPort(port == 0 ? 0 : port + number);
    }
}

package dev.mockbell.cli;

import dev.mockbell.contract.Contract;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.mock.AnswerContent;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockEvent;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.MockRecorder;
import dev.mockbell.mock.MockSurroundings;
import dev.mockbell.mock.MockTls;
import dev.mockbell.mock.QueueMock;
import dev.mockbell.mock.Readiness;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.LocalProject;
import dev.mockbell.project.Names;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.wire.PortHolder;
import dev.mockbell.wire.jms.JmsAddress;
import dev.mockbell.wire.jms.JmsServer;
import dev.mockbell.xml.TextFile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicLong;
import java.util.regex.Pattern;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Stands in for a service until stopped. */
@Command(
        name = "mock",
        mixinStandardHelpOptions = true,
        description = {
            "Answers for a contract until stopped. Prints a line READY ADDRESS WSDL-ADDRESS for each port.",
            "It ends with SIGTERM or Ctrl+C, once the requests under way are answered."
        })
final class MockCommand implements Callable<Integer> {
    private static final Pattern SPACE = Pattern.compile("\\s+");

    /** So long the requests under way may take when the program is to end. */
    private static final Duration PATIENCE = Duration.ofSeconds(10);

    /** So long a mock brings itself to speed when no client comes. */
    private static final Duration WARM = Duration.ofMillis(2_000);

    private static final int MOST_MEGABYTES = 64;

    private final Console console;

    @Parameters(paramLabel = "WSDL|PROJECT", description = "Address, file or project folder.")
    private String source;

    @Option(names = "--port", paramLabel = "N", description = "The port to listen on; 0 for any free one.")
    private Integer port;

    @Option(names = "--host", paramLabel = "H", description = "The address to listen on; loopback unless given.")
    private String host;

    @Option(names = "--mock", paramLabel = "NAME", description = "Only this one of the project's; may be repeated.")
    private List<String> names = new ArrayList<>();

    @Option(
            names = "--tls",
            description =
                    "By TLS, with a certificate of the project's own authority; its own is written where it says.")
    private boolean tls;

    @Option(names = "--once", paramLabel = "N", description = "Ends after so many answers, all mocks together.")
    private int once;

    @Option(names = "--quiet", description = "Says nothing of requests that nothing matched.")
    private boolean quiet;

    @Option(names = "--log", paramLabel = "FILE", description = "Adds a line for each request to a file.")
    private Path log;

    @Option(
            names = "--pass-on",
            paramLabel = "URL",
            description = "Asks this live endpoint for what no answer with a condition takes.")
    private String passOn;

    @Option(
            names = "--set-answer",
            paramLabel = "OPERATION=FILE",
            description = "Answers an operation with the payload or envelope in a file; may be repeated.")
    private Map<String, Path> answers = new LinkedHashMap<>();

    @Option(
            names = "--broker",
            paramLabel = "URL",
            description =
                    "The broker of ports over queues, in place of their addresses' own: tcp://HOST:61616, amqp://HOST:5672."
                            + " --user and --password-env log in there.")
    private String broker;

    @Option(names = "--take-over", description = "Ends an earlier “mockbell mock” that has the port.")
    private boolean takeOver;

    @Mixin
    private Reading reading = new Reading();

    private final Map<String, Contract> contracts = new LinkedHashMap<>();
    private final CountDownLatch stopped = new CountDownLatch(1);
    private RequestLog lines;
    private Aloud aloud;
    private final AtomicLong given = new AtomicLong();

    MockCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() throws InterruptedException {
        CommandCore core = new CommandCore(reading);
        List<MockHost> hosts = new ArrayList<>();
        List<QueueMock> queues = new ArrayList<>();
        Optional<Project> project = core.project(source);
        project.ifPresent(p -> p.troubles().forEach(console::note));
        Optional<Ledger> ledger = Optional.empty();
        aloud = new Aloud(console::note);
        try {
            List<MockPlan> plans = plans(core, project);
            lines = log == null ? null : RequestLog.open(log, console::note);
            ledger = project.map(p -> core.recording(p, console));
            MockRecorder recorder = ledger.map(l -> (MockRecorder) l::offerMade).orElse(null);
            MockSurroundings around = project.map(p -> core.parts().mocks(p, recorder, this::told))
                    .orElseGet(() -> core.parts().mocks(recorder, this::told));
            for (MockPlan plan : plans) {
                Contract contract = contracts.get(plan.contract());
                remark(contract, plan, around);
                boolean queued = QueueMock.isFor(contract);
                Optional<MockHost> host = queued && contract.httpPorts().isEmpty()
                        ? Optional.empty()
                        : Optional.of(started(contract, plan, around));
                host.ifPresent(hosts::add);
                if (queued) {
                    queue(core, project, contract, plan, around, host).ifPresent(queues::add);
                }
            }
            if (tls) {
                Path certificate = certificate(core, project);
                console.note("Clients are to trust " + certificate);
            }
        } catch (Problem problem) {
            hosts.forEach(MockHost::close);
            queues.forEach(QueueMock::close);
            ledger.ifPresent(Ledger::close);
            aloud.close();
            if (lines != null) {
                lines.close();
            }
            core.close();
            throw problem;
        }
        for (MockHost mock : hosts) {
            mock.addresses().values().stream()
                    .distinct()
                    .forEach(address -> console.line("READY " + address + " " + address + "?wsdl"));
        }
        queues.forEach(q -> q.addresses().forEach(a -> console.line("READY " + a.requestUri())));
        hosts.forEach(h -> h.warmUp(WARM));
        try (Stopping stopping = new Stopping(core.stop())) {
            core.stop().onStop(stopped::countDown);
            stopped.await();
            queues.forEach(QueueMock::close);
            end(hosts, ledger, core);
            return stopping.ended(0);
        }
    }

    private void end(List<MockHost> hosts, Optional<Ledger> ledger, CommandCore core) {
        hosts.parallelStream().forEach(h -> h.finish(PATIENCE));
        long left = hosts.stream().mapToLong(MockHost::unrecorded).sum();
        if (left > 0) {
            console.note(left + " exchanges of a flood are not on the ledger; those that nothing matched are.");
        }
        ledger.ifPresent(Ledger::close);
        aloud.close();
        core.close();
        if (lines != null) {
            lines.close();
        }
    }

    /** Takes requests from the queues of a contract, at a broker that a project alone may not name. */
    private Optional<QueueMock> queue(
            CommandCore core,
            Optional<Project> project,
            Contract contract,
            MockPlan plan,
            MockSurroundings around,
            Optional<MockHost> host) {
        try {
            return Optional.of(queued(core, project, contract, plan, around, host));
        } catch (Problem problem) {
            if (contract.httpPorts().isEmpty() || broker != null) {
                throw problem;
            }
            // what is spoken over HTTP is answered all the same
            console.note("The queues of " + plan.contract() + " are not answered: " + problem.getMessage());
            return Optional.empty();
        }
    }

    private QueueMock queued(
            CommandCore core,
            Optional<Project> project,
            Contract contract,
            MockPlan plan,
            MockSurroundings around,
            Optional<MockHost> host) {
        Map<String, JmsAddress> addresses = new LinkedHashMap<>(QueueMock.addresses(
                contract, plan, port -> project.flatMap(p -> p.current().endpoint(plan.contract(), port))));
        if (broker != null) {
            addresses.replaceAll((port, address) -> address.at(broker));
        } else if (project.isPresent()) {
            LocalProject local = core.parts().locals().of(project.get().folder());
            addresses.values().forEach(a -> local.checkListening(a.host()));
        }
        JmsServer.Reach reach = new JmsServer.Reach(
                core.parts().http().connect().withLogin(reading.login()),
                core.parts().providers(),
                console::note);
        return host.map(h -> h.answerQueues(addresses, reach))
                .orElseGet(() -> QueueMock.start(contract, plan, around, addresses, reach));
    }

    private MockHost started(Contract contract, MockPlan plan, MockSurroundings around) {
        try {
            return MockHost.start(contract, plan, around);
        } catch (Problem problem) {
            Optional<PortHolder> ours = takeOver && problem.kind() == Problem.Kind.PORT_TAKEN
                    ? PortHolder.of(plan.port()).filter(PortHolder::isOurMock)
                    : Optional.empty();
            if (ours.isEmpty()) {
                throw problem;
            }
            console.note(
                    "Taking over port " + plan.port() + " from " + ours.get().words());
            ours.get().takeOver(PATIENCE.plusSeconds(5));
            return MockHost.start(contract, plan, around);
        }
    }

    /** What of a plan would not work is said before it is waited for. */
    private void remark(Contract contract, MockPlan plan, MockSurroundings around) {
        if (!quiet) {
            Readiness.of(contract, plan, around).stream()
                    .filter(r -> r.kind() != Readiness.Kind.INVALID || !answers.isEmpty())
                    .forEach(r -> console.note(r.operation() + ": " + r.text()));
        }
    }

    private static Path certificate(CommandCore core, Optional<Project> project) {
        try {
            Path file = project.isPresent()
                    ? ProjectStore.hidden(project.get().folder()).resolve("authority.pem")
                    : Files.createTempDirectory("mockbell-").resolve("authority.pem");
            AtomicFile.write(
                    file,
                    project.map(p -> core.parts().keys(p))
                            .orElseGet(() -> core.parts().keys())
                            .authority()
                            .pem());
            return file;
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "The certificate cannot be written: " + Problem.reason(e), null, null, e);
        }
    }

    /** On the loops that answer. */
    private void told(MockEvent event) {
        if (!event.matched() && !quiet) {
            aloud.say(() -> "unmatched: " + event.why());
        }
        if (lines != null) {
            lines.add(String.join(
                    "\t",
                    event.at().toString(),
                    event.operation().isEmpty() ? "-" : event.operation(),
                    event.title(),
                    SPACE.matcher(event.why()).replaceAll(" ")));
        }
        if (given.incrementAndGet() >= once && once > 0) {
            stopped.countDown();
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
            plans.addAll(ofProject(core, project.get()));
        }
        for (String operation : answers.keySet()) {
            if (contracts.values().stream().noneMatch(c -> c.operations().containsKey(operation))) {
                throw Problem.input("There is no operation " + operation, source, "Check the spelling.");
            }
        }
        return plans.stream().map(this::set).toList();
    }

    private List<MockPlan> ofProject(CommandCore core, Project project) {
        List<MockPlan> plans = new ArrayList<>();
        List<KeptContract> kept = project.contracts();
        for (String name : names) {
            if (kept.stream().noneMatch(k -> k.name().equals(name))) {
                throw Problem.input(
                        "The project has no contract “" + name + "”",
                        source,
                        "It has "
                                + String.join(
                                        ", ",
                                        kept.stream().map(KeptContract::name).toList()) + ".");
            }
        }
        for (KeptContract k : kept) {
            if (!names.isEmpty() && !names.contains(k.name())) {
                continue;
            }
            if (kept.size() > 1 && k.contract().httpPorts().isEmpty() && !QueueMock.isFor(k.contract())) {
                console.note(k.title() + " has no mock: none of its ports is spoken as SOAP over HTTP or JMS.");
                continue;
            }
            contracts.put(k.name(), k.contract());
            int number = plans.size();
            plans.add(placed(
                    project.mock(k.name()).orElseGet(() -> MockPlan.sampling(k.name(), MockPlan.USUAL_PORT + number)),
                    number));
        }
        LocalProject local = core.parts().locals().of(project.folder());
        if (host == null) {
            plans.forEach(p -> local.checkListening(p.host()));
        }
        if (plans.isEmpty()) {
            throw Problem.input("The project has no contract to mock", source, "Import one first.");
        }
        return plans;
    }

    private MockPlan placed(MockPlan plan, int number) {
        MockPlan at = host == null ? plan : plan.withHost(host);
        return port == null ? at : at.withPort(port == 0 ? 0 : port + number);
    }

    /** With what the options say of its answers. */
    private MockPlan set(MockPlan plan) {
        MockPlan made = tls ? plan.with(plan.conduct().with(MockTls.MADE)) : plan;
        Contract contract = contracts.get(plan.contract());
        for (String operation : contract.operations().keySet()) {
            Path file = answers.get(operation);
            if (file != null) {
                String body = TextFile.read(file, "The answer’s file", MOST_MEGABYTES);
                made = made.withAnswers(
                        operation,
                        List.of(MockAnswer.otherwise(file.getFileName().toString(), body)));
            } else if (passOn != null) {
                List<MockAnswer> all = new ArrayList<>(made.of(operation).stream()
                        .filter(MockAnswer::conditional)
                        .toList());
                all.add(new MockAnswer("", "live endpoint", AnswerContent.PassOn.to(passOn)));
                made = made.withAnswers(operation, all);
            }
        }
        return made;
    }
}

package dev.mockbell.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.access.Profile;
import dev.mockbell.check.Answer;
import dev.mockbell.check.Remarks;
import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.PartFiles;
import dev.mockbell.exchange.WireBytes;
import dev.mockbell.expression.Scope;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.problem.Took;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.redact.Redactor;
import dev.mockbell.sample.RandomValues;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sheet.HeaderBlocks;
import dev.mockbell.soap.Envelope;
import dev.mockbell.suite.CallSetup;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.CaseCaller;
import dev.mockbell.suite.CaseValues;
import dev.mockbell.suite.CopyOut;
import dev.mockbell.suite.PreparedCall;
import dev.mockbell.suite.Sent;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.xml.TextFile;
import java.io.IOException;
import java.io.Reader;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.CompletableFuture;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Calls an operation once. */
@Command(
        name = "call",
        mixinStandardHelpOptions = true,
        description =
                "Sends a request and prints the response. Exit code 0 answered, 3 fault, 4 no answer; 1 with --strict for an answer with flaws.")
final class CallCommand implements Callable<Integer> {
    /** More than a sheet or an editor would take. */
    private static final int MOST_FILE = 512;

    private final Console console;

    @Parameters(paramLabel = "WSDL|PROJECT", description = "Address, file or project folder.")
    private String source;

    @Option(names = "--operation", paramLabel = "NAME", required = true, description = "The operation to call.")
    private String operation;

    @Option(
            names = "--contract",
            paramLabel = "NAME",
            description = "The contract, where a project has several with that operation.")
    private String contractName;

    @Option(
            names = "--port",
            paramLabel = "NAME",
            description = "The port to call; the first that offers the operation otherwise.")
    private String port;

    @ArgGroup
    private Body body = new Body();

    /** What to send. */
    static final class Body {
        @Option(names = "--case", paramLabel = "NAME", description = "A case of the project.")
        private String kept;

        @Option(names = "--body", paramLabel = "FILE", description = "A file with the payload or a whole envelope.")
        private Path file;

        @Option(names = "--full", description = "The sample with all optional parts.")
        private boolean full;

        @Option(
                names = "--required",
                description = "The sample with what is required alone; by default what could be empty is filled too.")
        private boolean required;
    }

    @Option(
            names = "--set",
            paramLabel = "PATH=VALUE",
            description =
                    "Sets the element at an XPath to a value, in a SOAP header by header::NAME/PATH; may be repeated.")
    private List<String> values = List.of();

    @Option(
            names = "--soap-header",
            paramLabel = "FILE",
            description = "Adds the blocks of a file to the SOAP header; may be repeated.")
    private List<Path> soapHeaders = List.of();

    @Option(
            names = "--var",
            paramLabel = "NAME=VALUE",
            description = "Gives a variable a value for this call; may be repeated.")
    private Map<String, String> variables = Map.of();

    @Option(
            names = "--copy",
            paramLabel = "FORM",
            description =
                    "Prints the request as ${COMPLETION-CANDIDATES} instead of sending it; secrets stand as variables.")
    private CopyOut.Form copy;

    @Option(
            names = "--endpoint",
            paramLabel = "URL",
            description = "Where to send, in place of where the contract says.")
    private String endpoint;

    @Option(
            names = "--profile",
            paramLabel = "NAME",
            description = "The project's security profile to call by, in place of the case's or the environment's.")
    private String profileName;

    @Option(names = "--env", paramLabel = "NAME", description = "The project's environment to use.")
    private String environment;

    @Option(
            names = "--save-parts",
            paramLabel = "DIR",
            description = "Saves the parts that came beside the envelope as files.")
    private Path saveParts;

    @Option(
            names = "--strict",
            description =
                    "Exit code 1 for an answer that is not valid against the contract, or not as SOAP and HTTP want it.")
    private boolean strict;

    @Option(names = "--wire", description = "Prints what went over the wire, both sides.")
    private boolean wire;

    @Option(
            names = "--unmasked",
            description =
                    "Shows passwords, tokens and secrets, too, with --wire and --json; they are masked otherwise.")
    private boolean unmasked;

    @Option(names = "--json", description = "Prints the exchange as JSON.")
    private boolean json;

    @Mixin
    private Reading reading = new Reading();

    @Mixin
    private Reaching reaching = new Reaching();

    @Mixin
    private Delivering delivering = new Delivering();

    @Mixin
    private Securing securing = new Securing();

    @Mixin
    private Taking taking = new Taking();

    @Mixin
    private SecretsTo secretsTo = new SecretsTo();

    CallCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        taking.check();
        try (CommandCore core = new CommandCore(reading)) {
            CompletableFuture<Void> warm =
                    copy == null ? core.parts().warmUp() : CompletableFuture.completedFuture(null);
            Optional<Project> opened = core.project(source);
            opened.ifPresent(p -> p.troubles().forEach(console::note));
            Optional<Project> project = environment == null ? opened : opened.map(p -> p.in(environment));
            String name = project.map(this::contractWithOperation).orElse("contract");
            Contract contract = project.flatMap(p -> p.contract(name))
                    .map(k -> k.contract())
                    .orElseGet(() -> core.contract(source));
            BoundOperation bound = contract.operation(operation, port)
                    .orElseThrow(() -> Problem.input(
                            "There is no operation " + operation + (port == null ? "" : " at the port " + port),
                            source,
                            "There are "
                                    + String.join(", ", contract.operations().keySet()) + "."));
            Case kept = kept(project, name, contract, bound);
            kept = kept.withHeaders(merged(kept.headers(), reaching.headers()));
            kept = kept.withDelivery(delivering.over(kept.delivery()));
            MessageOutline asks = MessageOutline.ofRequest(contract, bound.operation());
            kept = CaseValues.set(asks, withBlocks(asks, kept), values);
            Optional<ProjectBench> bench = project.map(p -> core.bench(p, secretsTo));
            String own = kept.delivery().endpoint();
            Optional<String> address = Optional.ofNullable(endpoint)
                    .or(() -> Optional.of(own).filter(o -> !o.isBlank()))
                    .or(() -> bench.flatMap(b -> b.endpoint(name, bound.port().name())));
            Scope scope = scope(bench, contract, kept).with(variables);
            CallSetup setup = new CallSetup(
                    contract,
                    bound,
                    kept,
                    address,
                    scope,
                    securing.over(profile(bench, kept, bound), reading, reaching),
                    bench.map(ProjectBench::folder).orElse(Path.of("")),
                    delivering.parts(),
                    reading.timeout().orElse(kept.delivery().waiting().wholeOr(CallRequest.USUAL_TIMEOUT)));
            if (copy != null) {
                console.line(copied(core, setup));
                if (setup.profile().isPresent()) {
                    console.note(CopyOut.WITHOUT_PROFILE);
                }
                return 0;
            }
            CaseCaller caller = core.parts().caller();
            PreparedCall ready = caller.prepare(setup);
            PreparedCall call = ready.by(reaching.by(ready.by().keeping(false), reading));
            warm.join();
            core.parts().warmUpBefore(call.request().address());
            Sent sent = caller.send(call, "command line", core.stop());
            // what the server said before it was told who is there, and what led elsewhere, is on the ledger too
            sent.before().forEach(e -> project.ifPresent(p -> recorded(core, p, e)));
            Redactor redactor = scope.redactor();
            Answer answer = sent.answer(
                            MessageOutline.ofAnswer(contract, bound.operation()),
                            core.parts().expressions())
                    .masked(redactor);
            Exchange judged = answer.exchange();
            Exchange exchange = project.map(p -> recorded(core, p, judged)).orElse(judged);
            Remarks remarks = Remarks.of(answer);
            print(exchange, answer.whole(), remarks, unmasked ? null : redactor);
            save(exchange);
            int code = exitCode(exchange);
            int taken = taking.isAsked() && answer.whole()
                    ? taking.take(answer, core.parts().expressions(), scope, console, json, strict)
                    : 0;
            return code == 0 ? strict && !remarks.isEmpty() ? 1 : taken : code;
        }
    }

    /** With the blocks of files behind its own, a declared one in its place. */
    private Case withBlocks(MessageOutline outline, Case kept) {
        if (soapHeaders.isEmpty()) {
            return kept;
        }
        if (Envelope.isEnvelope(kept.body())) {
            throw Problem.input(
                    "The body is a whole envelope, which has its header with it",
                    null,
                    "Write the blocks into the envelope, or give the payload alone.");
        }
        HeaderBlocks blocks = HeaderBlocks.of(outline, kept.soapHeaders());
        for (Path file : soapHeaders) {
            for (String block : HeaderBlocks.of(outline, TextFile.read(file, "The header's file", MOST_FILE))
                    .blocks()) {
                blocks = blocks.with(block);
            }
        }
        return kept.withSoapHeaders(blocks.text());
    }

    private String copied(CommandCore core, CallSetup setup) {
        if (!setup.parts().isEmpty() || !setup.kept().parts().isEmpty()) {
            throw Problem.input("A copy holds no parts", null, "Leave --attach or --copy away.");
        }
        return new CopyOut(core.parts().expressions())
                .of(copy, setup.bound(), setup.kept(), setup.endpoint(), setup.scope())
                .stripTrailing();
    }

    private void save(Exchange exchange) {
        if (saveParts == null) {
            return;
        }
        List<Path> files =
                exchange.response().map(r -> PartFiles.save(r, saveParts)).orElse(List.of());
        files.forEach(f -> console.note("Saved " + f));
        if (files.isEmpty()) {
            console.note("There are no parts to save.");
        }
    }

    /** The profile that is named on the command line, or else the case's or the environment's. */
    private Optional<Profile> profile(Optional<ProjectBench> bench, Case kept, BoundOperation bound) {
        Case picking = profileName == null ? kept : kept.withSecurity(profileName);
        if (profileName != null && bench.isEmpty()) {
            throw Problem.input(
                    "Security profiles are kept in projects", source, "Give a project's folder, not a WSDL.");
        }
        return bench.flatMap(b -> b.profile(picking, bound.port().name()));
    }

    /** Headers of the command line take the place of those of their names. */
    private static List<Header> merged(List<Header> kept, List<Header> given) {
        List<Header> all = new ArrayList<>(kept);
        all.removeIf(h -> given.stream().anyMatch(g -> g.name().equalsIgnoreCase(h.name())));
        all.addAll(given);
        return all;
    }

    private Exchange recorded(CommandCore core, Project project, Exchange exchange) {
        try (Ledger ledger = core.recording(project, console)) {
            return ledger.add(exchange);
        } catch (Problem problem) {
            // the answer is what was asked for; that it could not be kept is told
            console.note(problem.getMessage());
            return exchange;
        }
    }

    private static Scope scope(Optional<ProjectBench> bench, Contract contract, Case kept) {
        return bench.map(b -> b.variables(kept))
                .orElseGet(() ->
                        Scope.EMPTY.with(RandomValues.of(List.of(contract))).withPrefixes(contract.prefixes()));
    }

    private String contractWithOperation(Project project) {
        if (contractName != null) {
            return contractName;
        }
        return project.contracts().stream()
                .filter(k -> k.contract().operation(operation, port).isPresent())
                .map(k -> k.name())
                .findFirst()
                .orElseThrow(() -> Problem.input(
                        "No contract of the project has an operation " + operation,
                        source,
                        "See “mockbell contract show”."));
    }

    private Case kept(Optional<Project> project, String contract, Contract read, BoundOperation bound) {
        if (body != null && body.kept != null) {
            Project p = project.orElseThrow(
                    () -> Problem.input("Cases are kept in projects", source, "Give a project's folder, not a WSDL."));
            List<Case> cases = p.cases(contract, bound.operation().key());
            Case found = cases.stream()
                    .filter(c -> c.id().equals(body.kept) || c.title().equals(body.kept))
                    .findFirst()
                    .orElseThrow(() -> Problem.input(
                            "There is no case “" + body.kept + "” of " + operation,
                            source,
                            "There are: "
                                    + String.join(
                                            ", ", cases.stream().map(Case::id).toList()) + "."));
            return port == null ? found : found.withPort(port);
        }
        Case sample = Case.ofSample("", "", contract, read, bound, detail());
        if (body == null || body.file == null) {
            return sample;
        }
        String text = TextFile.read(body.file, "The body's file", MOST_FILE);
        // a whole envelope has its header with it
        return Envelope.isEnvelope(text) ? sample.withBody(text).withSoapHeaders("") : sample.withBody(text);
    }

    private Detail detail() {
        boolean full = body != null && body.full;
        boolean required = body != null && body.required;
        return full ? Detail.FULL : required ? Detail.REQUIRED : Detail.STARTING;
    }

    /**
     * @param whole whether the answer came to its end; what came of one that did not is no answer to go on with
     * @param redactor masks credentials; null for the very bytes
     */
    private void print(Exchange exchange, boolean whole, Remarks remarks, Redactor redactor) {
        if (taking.isAsked() && !wire) {
            // what is taken out of the answer stands in its place
        } else if (json) {
            console.json(json(exchange, remarks, redactor));
        } else if (wire) {
            WireBytes bytes = new WireBytes(Optional.ofNullable(redactor));
            console.bytes(bytes.of(exchange.request()));
            console.line("");
            exchange.response().ifPresent(r -> console.bytes(bytes.of(r)));
        } else if (whole) {
            exchange.response().ifPresent(this::print);
        }
        // what the answer is called begins with its status where it is no envelope
        boolean told = exchange.note().startsWith("status ");
        String status = exchange.status() > 0 && !told ? "status " + exchange.status() + ", " : "";
        String took = Took.words(Duration.ofNanos(exchange.timing().total())) + ", "
                + exchange.response().map(r -> r.body().size()).orElse(0L) + " bytes";
        String note = exchange.note();
        console.note(told ? note + "; " + took : status + took + (note.isEmpty() ? "" : ", " + note));
        remarks.words().forEach(w -> console.note(w + "."));
        int beside = exchange.response().map(r -> r.attachments().size()).orElse(0);
        if (beside > 0) {
            console.note(beside + " more " + (beside == 1 ? "part" : "parts")
                    + " in the same body; --save-parts keeps them, --wire shows all of it.");
        }
        if (exchange.response().isEmpty()) {
            console.note("--endpoint sends elsewhere, and “mockbell mock” stands in for a service.");
        } else if (!whole && !wire && !json) {
            console.note("--wire shows the bytes that came.");
        }
    }

    private void print(Message response) {
        try (Reader text = response.reader()) {
            console.text(text);
        } catch (IOException e) {
            throw Content.unreadable(e);
        }
    }

    private static ObjectNode json(Exchange e, Remarks remarks, Redactor redactor) {
        ObjectNode node = JsonNodeFactory.instance.objectNode();
        node.put("format", 1);
        node.put("operation", e.operation());
        node.put("endpoint", e.endpoint());
        node.put("outcome", e.outcome().name().toLowerCase(java.util.Locale.ROOT));
        node.put("note", e.note());
        node.put("status", e.status());
        remarks.words().forEach(node.putArray("remarks")::add);
        ObjectNode timing = node.putObject("timing");
        timing.put("nameMillis", e.timing().name() / 1e6);
        timing.put("connectMillis", e.timing().connect() / 1e6);
        timing.put("tlsMillis", e.timing().tls() / 1e6);
        timing.put("sendMillis", e.timing().send() / 1e6);
        timing.put("waitMillis", e.timing().await() / 1e6);
        timing.put("receiveMillis", e.timing().receive() / 1e6);
        e.secured().ifPresent(t -> {
            ObjectNode tls = node.putObject("tls");
            tls.put("version", t.version());
            tls.put("cipher", t.cipher());
            t.chain().forEach(tls.withArray("chain")::add);
        });
        String request = e.request().text();
        node.put("request", redactor == null ? request : redactor.message(request));
        e.response().ifPresent(r -> {
            ArrayNode headers = node.putArray("responseHeaders");
            r.headers()
                    .forEach(h -> headers.addObject()
                            .put("name", h.name())
                            .put("value", redactor == null ? h.value() : redactor.header(h.name(), h.value())));
            node.put("response", r.text());
        });
        return node;
    }

    private static int exitCode(Exchange exchange) {
        if (exchange.response().isEmpty()) {
            return 4;
        }
        if (exchange.outcome() == Outcome.FAULT) {
            return 3;
        }
        return exchange.outcome() == Outcome.FAILED ? 4 : 0;
    }
}

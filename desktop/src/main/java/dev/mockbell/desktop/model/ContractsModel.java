package dev.mockbell.desktop.model;

import dev.mockbell.assembly.Core;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Export;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.ReadLimits;
import dev.mockbell.contract.Rewriting;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.listing.FinderListener;
import dev.mockbell.listing.FoundContract;
import dev.mockbell.listing.Listing;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.ExportFile;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.Names;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.redact.Redactor;
import dev.mockbell.request.RequestRecipe;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sample.SampleEnvelope;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.Login;
import dev.mockbell.wire.LoginAsker;
import dev.mockbell.wire.Proxies;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleObjectProperty;

/** Reads contracts into the project, and what is done with them as a whole. Used on the interface thread. */
public final class ContractsModel {
    private static final int MOST_RECENT = 12;

    private final Desk desk;
    private final ReadOnlyStringWrapper progress = new ReadOnlyStringWrapper("");
    private final ObjectProperty<LoginQuestion> question = new SimpleObjectProperty<>();
    private final FoundModel found;
    private StopSignal reading = new StopSignal();
    private final Derived<Sampled, String> envelopes;
    private Runnable added = () -> {};

    ContractsModel(Desk desk) {
        this.desk = desk;
        this.found = new FoundModel(this);
        this.envelopes = new Derived<>(desk.tasks(), 20, Sampled::request, desk::tell);
    }

    /**
     * An address asks for a login while a contract is read.
     *
     * @param challenge what it said of the kind of login
     * @param again whether the last login was refused
     */
    public record LoginQuestion(
            URI address, String challenge, boolean again, CompletableFuture<Optional<Login>> answer) {}

    /** What is being read, while something is; empty otherwise. */
    public ReadOnlyStringProperty progressProperty() {
        return progress.getReadOnlyProperty();
    }

    /** Runs, on the interface thread, when a contract has come into the project. */
    public void setOnAdded(Runnable action) {
        added = action;
    }

    /** The login that is asked for; null while none is. */
    public ObjectProperty<LoginQuestion> questionProperty() {
        return question;
    }

    /** Answers the question; empty gives up. */
    public void answer(Optional<Login> login) {
        LoginQuestion asked = question.get();
        question.set(null);
        if (asked != null) {
            asked.answer().complete(login);
        }
    }

    /** Gives up on a question, unless it has been answered or another is asked by now. */
    public void giveUp(LoginQuestion asked) {
        if (question.get() == asked) {
            answer(Optional.empty());
        }
    }

    /**
     * Fetches what is at an address: a contract is kept in the project, a listing of several is shown to choose from. Progress
     * and problems are shown.
     *
     * @param proxy {@code host:port}; blank to go by the environment
     */
    public void read(String address, String proxy) {
        Path folder = desk.project().folder();
        Set<String> names = names();
        Instant begun = Instant.now(desk.clock());
        working(
                address,
                stop -> {
                    Came came = contractOrListing(address, proxy, stop);
                    if (came.contract().isEmpty()) {
                        return came;
                    }
                    Contract read = came.contract().get();
                    String name = Names.free(read.title(), names::contains);
                    KeptContract kept = desk.saver()
                            .submit(() -> {
                                remember(folder, Redactor.withoutLogin(address));
                                return save(folder, name, read);
                            })
                            .get();
                    return came.as(kept);
                },
                came -> {
                    came.kept().ifPresent(k -> added(List.of(k)));
                    came.listing().ifPresent(l -> found.show(l, Duration.between(begun, Instant.now(desk.clock()))));
                },
                () -> read(address, proxy));
    }

    /** What was at an address: a contract, and as what it was kept; or a listing of several. */
    private record Came(Optional<Contract> contract, Optional<KeptContract> kept, Optional<Listing> listing) {
        Came as(KeptContract one) {
            return new Came(contract, Optional.of(one), listing);
        }
    }

    private Came contractOrListing(String address, String proxy, StopSignal stop) {
        AtomicBoolean refused = new AtomicBoolean();
        return reaching(proxy, stop, (caller, logins) -> {
            LoginAsker asker = (uri, challenge, again) -> {
                Optional<Login> given = logins.ask(uri, challenge, again);
                refused.compareAndSet(false, given.isEmpty());
                return given;
            };
            try {
                Contract read = Core.reader(() -> caller, ReadLimits.USUAL, asker)
                        .read(address, text -> desk.tasks().later(() -> show(stop, text)), stop);
                return new Came(Optional.of(read), Optional.empty(), Optional.empty());
            } catch (Problem noContract) {
                // who gave no login is not asked for it again
                if (noContract.kind() != Problem.Kind.INPUT || refused.get()) {
                    throw noContract;
                }
                try {
                    Listing listing =
                            Core.finder(() -> caller, ReadLimits.USUAL, asker).find(address, new Looking(stop), stop);
                    return new Came(Optional.empty(), Optional.empty(), Optional.of(listing));
                } catch (Problem noListing) {
                    throw noListing.kind() == Problem.Kind.STOPPED
                                    || noListing.getMessage().contains("registry")
                            ? noListing
                            : noContract;
                }
            }
        });
    }

    /** Says how far the search has come. */
    private final class Looking implements FinderListener {
        private final StopSignal stop;
        private final AtomicInteger count = new AtomicInteger();

        Looking(StopSignal stop) {
            this.stop = stop;
        }

        @Override
        public void at(String text) {
            int so = count.get();
            desk.tasks().later(() -> ContractsModel.this.show(stop, so == 0 ? text : so + " found, " + text));
        }

        @Override
        public void found(FoundContract contract) {
            count.incrementAndGet();
        }
    }

    /** The name of the project that contracts are kept in. */
    public String project() {
        return desk.project().name();
    }

    /** What a listing named, to choose from. */
    public FoundModel found() {
        return found;
    }

    /** Keeps contracts that were found and read. */
    void add(List<Contract> contracts) {
        Path folder = desk.project().folder();
        Set<String> taken = names();
        desk.inTurn(
                () -> {
                    List<KeptContract> kept = new ArrayList<>();
                    for (Contract contract : contracts) {
                        String name = Names.free(contract.title(), taken::contains);
                        taken.add(name);
                        kept.add(save(folder, name, contract));
                    }
                    return kept;
                },
                this::added,
                desk::tell);
    }

    private Set<String> names() {
        return desk.project().contracts().stream()
                .map(KeptContract::name)
                .collect(Collectors.toCollection(HashSet::new));
    }

    private KeptContract save(Path folder, String name, Contract read) {
        return desk.store().saveContract(folder, name, read.words(), read, Instant.now(desk.clock()));
    }

    private void added(List<KeptContract> kept) {
        found.forget();
        desk.change(p -> {
            Project now = p;
            for (KeptContract k : kept) {
                now = now.withContract(k);
            }
            return now;
        });
        kept.stream()
                .findFirst()
                .flatMap(k -> desk.places().stream()
                        .filter(p -> p.contract().name().equals(k.name()))
                        .findFirst())
                .ifPresent(desk.placeProperty()::set);
        desk.go(Station.CONTRACT);
        added.run();
    }

    /** Something that is done with what an address has, off the interface thread. */
    @FunctionalInterface
    interface Work<T> {
        T with(StopSignal stop) throws Exception;
    }

    /**
     * Works on an address, in place of what is being read; progress and problems are shown.
     *
     * @param done hears it, on the interface thread
     * @param again tries once more
     */
    <T> void working(String address, Work<T> work, Consumer<T> done, Runnable again) {
        stop();
        StopSignal stop = new StopSignal();
        reading = stop;
        progress.set("Reading " + Redactor.withoutLogin(address));
        desk.tasks()
                .run(
                        () -> work.with(stop),
                        came -> {
                            progress.set("");
                            done.accept(came);
                        },
                        problem -> {
                            progress.set("");
                            if (problem.kind() != Problem.Kind.STOPPED) {
                                desk.tell(Notice.bad(problem.getMessage(), "Try again", again));
                            }
                        });
    }

    /** Reads what was pasted or dropped as text: an address, a file's path, or a WSDL itself. */
    public void paste(String text) {
        if (!text.startsWith("<")) {
            if (!text.isEmpty() && !text.contains("\n")) {
                read(text, "");
            }
            return;
        }
        Path folder = ProjectStore.hidden(desk.project().folder()).resolve("pasted");
        desk.tasks()
                .run(
                        () -> {
                            Path file = folder.resolve("pasted.wsdl");
                            for (int i = 2; Files.exists(file); i++) {
                                file = folder.resolve("pasted-" + i + ".wsdl");
                            }
                            AtomicFile.write(file, text);
                            return file;
                        },
                        file -> read(file.toString(), ""),
                        desk::tell);
    }

    /** Reads the contract at an address. */
    Contract fetch(String address, StopSignal stop) {
        return reaching(
                "",
                stop,
                (caller, asker) -> Core.reader(() -> caller, ReadLimits.USUAL, asker)
                        .read(address, text -> desk.tasks().later(() -> show(stop, text)), stop));
    }

    private <T> T reaching(String proxy, StopSignal stop, BiFunction<HttpCaller, LoginAsker, T> use) {
        HttpCaller usual = desk.core().http();
        HttpCaller caller =
                proxy.isBlank() ? usual : new HttpCaller(usual.connect().through(Proxies.named(proxy)));
        LoginAsker asker = (uri, challenge, again) -> ask(uri, challenge, again, stop);
        try {
            return use.apply(caller, asker);
        } finally {
            if (caller != usual) {
                caller.close();
            }
        }
    }

    private Optional<Login> ask(URI address, String challenge, boolean again, StopSignal stop) {
        CompletableFuture<Optional<Login>> answer = new CompletableFuture<>();
        stop.onStop(() -> answer.complete(Optional.empty()));
        desk.tasks().later(() -> question.set(new LoginQuestion(address, challenge, again, answer)));
        try {
            Optional<Login> given = answer.get();
            stop.check();
            return given;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw Problem.stopped();
        } catch (ExecutionException e) {
            return Optional.empty();
        }
    }

    private void show(StopSignal stop, String text) {
        if (reading == stop && !stop.isStopped() && !progress.get().isEmpty()) {
            progress.set(text);
        }
    }

    /** Gives up what is being read. */
    public void stop() {
        reading.stop();
        question.set(null);
        progress.set("");
    }

    private static Path recentFile(Path folder) {
        return ProjectStore.hidden(folder).resolve("recent-contracts");
    }

    private static void remember(Path folder, String address) {
        List<String> all = new ArrayList<>(recent(folder));
        all.remove(address);
        all.add(0, address);
        AtomicFile.write(
                recentFile(folder), String.join("\n", all.subList(0, Math.min(MOST_RECENT, all.size()))) + "\n");
    }

    private static List<String> recent(Path folder) {
        try {
            Path file = recentFile(folder);
            return Files.exists(file)
                    ? Files.readAllLines(file).stream()
                            .filter(l -> !l.isBlank())
                            .toList()
                    : List.of();
        } catch (IOException unreadable) {
            // a list of what was opened before is a comfort, not data
            return List.of();
        }
    }

    /** Addresses that were read before, the latest first. */
    public List<String> recent() {
        return recent(desk.project().folder());
    }

    /** A whole request of an operation at a port, with everything in; empty while it is being made. */
    public Optional<String> sampleRequest(OperationPlace place, Port port) {
        return envelopes.of(new Sampled(place.contract().contract(), port, place.key()));
    }

    /** Grows when a sample has been made. */
    public IntegerProperty samplesProperty() {
        return envelopes.changesProperty();
    }

    /** Makes a request's payload with everything in and hands it over, on the interface thread. */
    public void sample(OperationPlace place, Consumer<String> taker) {
        desk.tasks()
                .run(
                        () -> SampleBuilder.text(
                                MessageOutline.ofRequest(place.contract().contract(), place.operation()), Detail.FULL),
                        taker,
                        desk::tell);
    }

    private record Sampled(Contract contract, Port port, String operation) {
        String request() {
            return port.binding()
                    .operation(operation)
                    .flatMap(o -> SampleEnvelope.request(contract, port.binding(), o, Detail.FULL))
                    .orElse("");
        }

        @Override
        public boolean equals(Object other) {
            return other instanceof Sampled s
                    && s.contract == contract
                    && s.port == port
                    && s.operation.equals(operation);
        }

        @Override
        public int hashCode() {
            return operation.hashCode();
        }
    }

    /** Gives a contract another title. */
    public void rename(KeptContract contract, String title) {
        KeptContract renamed = new KeptContract(contract.name(), title, contract.fetched(), contract.contract());
        desk.change(p -> p.withContract(renamed));
        Path folder = desk.project().folder();
        desk.inTurn(
                () -> {
                    desk.store().retitle(folder, contract.name(), title);
                    return null;
                },
                nothing -> {},
                desk::tell);
        desk.placeProperty()
                .set(desk.places().stream()
                        .filter(p -> p.contract().name().equals(contract.name()))
                        .findFirst()
                        .orElse(desk.placeProperty().get()));
    }

    /** Takes a contract out of the project; it can be brought back. */
    public void remove(KeptContract contract) {
        AtomicReference<Path> aside = new AtomicReference<>();
        remove(
                contract,
                aside,
                () -> desk.steps()
                        .tells(
                                contract.title() + " is removed; its cases stay in the folder.",
                                () -> restore(contract, aside.get()),
                                () -> remove(contract, aside, () -> {})));
    }

    private void remove(KeptContract contract, AtomicReference<Path> aside, Runnable then) {
        Path folder = desk.project().folder();
        desk.inTurn(
                () -> desk.store().removeContract(folder, contract.name()),
                moved -> {
                    aside.set(moved);
                    desk.change(p -> p.withoutContract(contract.name()));
                    desk.placeProperty().set(desk.places().stream().findFirst().orElse(null));
                    then.run();
                },
                desk::tell);
    }

    private void restore(KeptContract contract, Path moved) {
        Path folder = desk.project().folder();
        desk.inTurn(
                () -> desk.store().restoreContract(folder, contract.name(), moved),
                kept -> {
                    desk.change(p -> p.withContract(kept));
                    refresh(contract.name());
                },
                desk::tell);
    }

    /** Operations are those of the contract as it is now. */
    void refresh(String contract) {
        OperationPlace place = desk.placeProperty().get();
        if (place == null || place.contract().name().equals(contract)) {
            desk.placeProperty()
                    .set(desk.place(contract, place == null ? "" : place.key())
                            .or(() -> desk.places().stream()
                                    .filter(p -> p.contract().name().equals(contract))
                                    .findFirst())
                            .or(() -> desk.places().stream().findFirst())
                            .orElse(null));
        }
    }

    /**
     * Sets where a port is in the environment in use; blank goes by the contract again.
     *
     * @return false when it is no address, which is told then
     */
    public boolean endpoint(KeptContract contract, Port port, String address) {
        try {
            if (!address.isBlank()) {
                RequestRecipe.checkAddress(address);
            }
        } catch (Problem problem) {
            desk.tell(problem);
            return false;
        }
        desk.change(p -> p.withEndpoint(contract.name(), port.name(), address));
        return true;
    }

    /** Writes a contract to a folder, a zip file or a single WSDL. */
    public void export(KeptContract contract, Path out, Export.Form form, Rewriting rewriting) {
        desk.tasks()
                .run(
                        () -> {
                            Map<String, byte[]> files = Export.files(contract.contract(), form, rewriting);
                            return ExportFile.write(out, files);
                        },
                        written -> desk.tell(Notice.plain("Wrote " + written.size()
                                + (written.size() == 1 ? " file: " : " files, first ") + written.get(0) + ".")),
                        desk::tell);
    }
}

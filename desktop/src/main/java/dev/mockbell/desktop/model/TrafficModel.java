package dev.mockbell.desktop.model;

import dev.mockbell.compare.Comparison;
import dev.mockbell.compare.Difference;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.MessageText;
import dev.mockbell.ledger.Condition;
import dev.mockbell.ledger.Figure;
import dev.mockbell.ledger.Figures;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.ledger.LedgerListener;
import dev.mockbell.ledger.LedgerState;
import dev.mockbell.ledger.Listing;
import dev.mockbell.ledger.Order;
import dev.mockbell.ledger.Retention;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Settings.KeptFilter;
import dev.mockbell.redact.Redactor;
import dev.mockbell.suite.CopyOut;
import dev.mockbell.task.StopSignal;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import javafx.animation.PauseTransition;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.LongProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleLongProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import javafx.util.Duration;
import org.w3c.dom.Element;

/**
 * The ledger as the traffic station and the tape show it. The list is read a page at a time; what comes while it stands is put
 * on top of it, and a filter or an order that is changed has it read anew.
 */
public final class TrafficModel {
    /** How many exchanges are read at a time. */
    public static final int PAGE = 2_000;

    private static final int ON_TAPE = 100_000;
    private static final int LOOK_BACK = 20_000;
    private static final int FIRST_ON_TAPE = 500;

    private static final int SUM_MILLIS = 1_000;

    /** Hits that are shown together, of a search that takes a while. */
    private static final long TOGETHER_NANOS = 150_000_000L;

    private final Desk desk;
    private final ObservableList<Listing> listings = FXCollections.observableArrayList();
    private final ObjectProperty<LedgerFilter> filter = new SimpleObjectProperty<>(LedgerFilter.ALL);
    private final ObjectProperty<LedgerFilter> draft = new SimpleObjectProperty<>(LedgerFilter.ALL);
    private final StringProperty flaw = new SimpleStringProperty("");
    private final ObjectProperty<Order> order = new SimpleObjectProperty<>(Order.NEWEST);
    private final ObjectProperty<Figures> figures = new SimpleObjectProperty<>(Figures.NONE);
    private final BooleanProperty searching = new SimpleBooleanProperty();
    private final ObjectProperty<Exchange> selected = new SimpleObjectProperty<>();
    private final ObjectProperty<Two> two = new SimpleObjectProperty<>();
    private final LongProperty version = new SimpleLongProperty();
    private final TapeLine tape = new TapeLine(ON_TAPE);
    private final Derived<Face, String> faces;
    private final AtomicBoolean due = new AtomicBoolean();
    private StopSignal search = new StopSignal();
    private boolean summing;
    private boolean sumAgain;
    private boolean whole;
    private boolean looked;

    public TrafficModel(Desk desk) {
        this.desk = desk;
        this.faces = new Derived<>(desk.tasks(), 8, Face::text, desk::tell);
        desk.ledger().listen(new LedgerListener() {
            @Override
            public void added(Listing listing) {
                TrafficModel.this.added(listing);
            }

            @Override
            public void fares(LedgerState state) {
                desk.tasks().later(() -> told(state));
            }
        });
        desk.tasks().run(() -> desk.ledger().list(LedgerFilter.ALL, FIRST_ON_TAPE), this::before, desk::tell);
        filter.addListener((o, was, now) -> refresh());
        draft.addListener((o, was, now) -> refresh());
        order.addListener((o, was, now) -> refresh());
        desk.stationProperty().addListener((o, was, now) -> {
            if (now == Station.TRAFFIC) {
                update();
            }
        });
        desk.onClose(() -> search.stop());
        refresh();
    }

    /** Puts what was there at the start before what has come since. */
    private void before(List<Listing> found) {
        tape.before(found);
        version.set(version.get() + 1);
    }

    /** One side of an exchange as it is shown. */
    private record Face(long id, boolean answer, boolean wire, Optional<Redactor> redactor, Message message) {
        String text() {
            MessageText text = MessageText.toLookAt(redactor);
            return wire ? text.wire(message) : text.body(message);
        }

        @Override
        public boolean equals(Object other) {
            return other instanceof Face f
                    && f.id == id
                    && f.answer == answer
                    && f.wire == wire
                    && f.message == message
                    && f.redactor.equals(redactor);
        }

        @Override
        public int hashCode() {
            return Objects.hash(id, answer, wire);
        }
    }

    /** A side of an exchange as text, its body laid out or its bytes; empty while that is being made. */
    public String text(Exchange e, boolean answer, boolean wire) {
        Optional<Message> message = answer ? e.response() : Optional.of(e.request());
        Optional<Redactor> redactor = desk.maskedProperty().get() ? Optional.of(desk.redactor()) : Optional.empty();
        return message.flatMap(m -> faces.of(new Face(e.id(), answer, wire, redactor, m)))
                .orElse("");
    }

    /** The request's message as it is copied: all of it, credentials masked; made off the interface thread. */
    public void copyOf(Exchange e, Consumer<String> done) {
        Redactor redactor = desk.redactor();
        desk.tasks().run(() -> redactor.message(e.request().text()), done, desk::tell);
    }

    /** The request as something that can be pasted elsewhere, credentials masked; made off the interface thread. */
    public void copyAs(CopyOut.Form form, long id, Consumer<String> done) {
        Redactor redactor = desk.redactor();
        desk.tasks().run(() -> CopyOut.sent(form, desk.ledger().get(id).orElseThrow(), redactor), done, desk::tell);
    }

    /** Grows when a text has been made. */
    public IntegerProperty textsProperty() {
        return faces.changesProperty();
    }

    private void added(Listing listing) {
        tape.add(listing);
        if (due.compareAndSet(false, true)) {
            desk.tasks().later(() -> {
                PauseTransition pause = new PauseTransition(Duration.millis(120));
                pause.setOnFinished(e -> {
                    due.set(false);
                    if (desk.stationProperty().get() == Station.TRAFFIC) {
                        update();
                    } else {
                        version.set(version.get() + 1);
                    }
                });
                pause.play();
            });
        }
    }

    /** What is asked: the chips, and what is being typed. */
    public LedgerFilter effective() {
        return filter.get().and(draft.get());
    }

    /** Takes what is typed as a filter while it is typed; what cannot be asked is told by {@link #flawProperty}. */
    public void type(String text) {
        try {
            LedgerFilter typed = LedgerFilter.typed(text);
            flaw.set("");
            draft.set(typed);
        } catch (Problem problem) {
            flaw.set(problem.getMessage());
        }
    }

    /** Makes chips of what was typed. */
    public boolean keepTyped() {
        if (!flaw.get().isEmpty() || draft.get().isEmpty()) {
            return false;
        }
        LedgerFilter all = effective();
        draft.set(LedgerFilter.ALL);
        filter.set(all);
        return true;
    }

    /** Why what is typed cannot be asked; empty when it can. */
    public StringProperty flawProperty() {
        return flaw;
    }

    /** Reads the list anew. */
    public void refresh() {
        search.stop();
        search = new StopSignal();
        looked = false;
        read(effective(), Long.MAX_VALUE, true);
        sum();
    }

    /** Puts what has come since on top; in another order than by number the list is read anew. */
    private void update() {
        if (!order.get().equals(Order.NEWEST) || !looked || searching.get()) {
            if (!searching.get()) {
                refresh();
            }
            return;
        }
        long newest = listings.isEmpty() ? 0 : listings.get(0).id();
        LedgerFilter wanted = effective();
        LedgerFilter news = wanted.and(new Condition.Between(Figure.NUMBER, newest + 1, Long.MAX_VALUE));
        StopSignal stop = search;
        desk.tasks()
                .run(
                        () -> {
                            desk.ledger().settle();
                            List<Listing> found = new ArrayList<>();
                            desk.ledger().search(news, Order.NEWEST, Long.MAX_VALUE, desk.expressions(), stop, l -> {
                                found.add(l);
                                return found.size() < PAGE;
                            });
                            return found;
                        },
                        found -> {
                            if (stop != search || stop.isStopped()) {
                                return;
                            }
                            long now = listings.isEmpty() ? 0 : listings.get(0).id();
                            if (found.size() == PAGE || now != newest) {
                                refresh();
                            } else if (!found.isEmpty()) {
                                listings.addAll(0, found);
                                sum();
                            }
                            version.set(version.get() + 1);
                        },
                        this::told);
    }

    /** Reads on where the list ends, if it does not end there. */
    public void more() {
        if (!whole && !searching.get() && !listings.isEmpty() && order.get().equals(Order.NEWEST)) {
            read(effective(), listings.get(listings.size() - 1).id(), false);
        }
    }

    private void read(LedgerFilter wanted, long before, boolean anew) {
        StopSignal stop = search;
        Order by = order.get();
        searching.set(true);
        int[] shown = {0};
        desk.tasks()
                .run(
                        () -> {
                            desk.ledger().settle();
                            List<Listing> found = new ArrayList<>();
                            long[] last = {System.nanoTime()};
                            desk.ledger().search(wanted, by, before, desk.expressions(), stop, l -> {
                                found.add(l);
                                if (System.nanoTime() - last[0] > TOGETHER_NANOS && found.size() < PAGE) {
                                    // of a search that takes a while, what there is so far
                                    List<Listing> some = List.copyOf(found.subList(shown[0], found.size()));
                                    boolean first = shown[0] == 0;
                                    shown[0] = found.size();
                                    last[0] = System.nanoTime();
                                    desk.tasks().later(() -> show(stop, some, anew && first));
                                }
                                return found.size() < PAGE;
                            });
                            return found;
                        },
                        found -> {
                            if (stop != search) {
                                return;
                            }
                            searching.set(false);
                            looked = true;
                            whole = found.size() < PAGE;
                            show(stop, found.subList(shown[0], found.size()), anew && shown[0] == 0);
                            version.set(version.get() + 1);
                        },
                        problem -> {
                            if (stop == search) {
                                searching.set(false);
                                looked = true;
                                told(problem);
                            }
                        });
    }

    private void show(StopSignal stop, List<Listing> found, boolean anew) {
        if (stop != search) {
            return;
        }
        if (!anew) {
            listings.addAll(found);
        } else if (!found.equals(listings)) {
            listings.setAll(found);
        }
    }

    /** A ledger that cannot be written is told of wherever the user is; where it is listed it stays said. */
    private void told(LedgerState now) {
        now.trouble().ifPresent(t -> desk.tell(Notice.bad(t)));
        version.set(version.get() + 1);
    }

    private void told(Problem problem) {
        if (problem.kind() == Problem.Kind.EXPRESSION) {
            flaw.set(problem.getMessage());
        } else {
            desk.tell(problem);
        }
    }

    /** Stops looking; what was found stays. */
    public void stop() {
        search.stop();
        searching.set(false);
    }

    /** Whether the ledger is being looked through. */
    public BooleanProperty searchingProperty() {
        return searching;
    }

    /** Adds up anew, one at a time: while much comes, each sum is begun when the one before it is there. */
    private void sum() {
        if (summing) {
            sumAgain = true;
            return;
        }
        summing = true;
        sumAgain = false;
        StopSignal stop = search;
        LedgerFilter wanted = effective();
        desk.tasks()
                .run(
                        () -> desk.ledger().figures(wanted, desk.expressions(), stop),
                        found -> summed(stop == search ? Optional.of(found) : Optional.empty()),
                        problem -> summed(Optional.empty()));
    }

    private void summed(Optional<Figures> found) {
        found.ifPresent(figures::set);
        if (sumAgain) {
            desk.tasks().after(found.isPresent() ? SUM_MILLIS : 0, this, () -> {
                summing = false;
                sum();
            });
        } else {
            summing = false;
        }
    }

    /** What all that pass the filter come to. */
    public ObjectProperty<Figures> figuresProperty() {
        return figures;
    }

    /** How the ledger fares. */
    public LedgerState state() {
        return desk.ledger().state();
    }

    /** Exchanges that pass the filter, in order; as many as were read. */
    public ObservableList<Listing> listings() {
        return listings;
    }

    /** The chips. */
    public ObjectProperty<LedgerFilter> filterProperty() {
        return filter;
    }

    public ObjectProperty<Order> orderProperty() {
        return order;
    }

    /** The exchange looked at, with its bytes; null for none. */
    public ObjectProperty<Exchange> selectedProperty() {
        return selected;
    }

    /** Grows with every refresh of list or tape. */
    public LongProperty versionProperty() {
        return version;
    }

    /** The project's filters that have a name. */
    public List<KeptFilter> named() {
        return desk.project().settings().filters();
    }

    /** Keeps what is asked now under a name, in place of one of that name. */
    public void name(String name) {
        List<KeptFilter> all = new ArrayList<>(named());
        all.removeIf(f -> f.name().equals(name));
        all.add(new KeptFilter(name, effective().typed()));
        desk.change(p -> p.with(p.settings().withFilters(all)));
    }

    /** Asks what a filter with a name asks. */
    public void ask(KeptFilter kept) {
        try {
            draft.set(LedgerFilter.ALL);
            filter.set(LedgerFilter.typed(kept.filter()));
        } catch (Problem problem) {
            desk.tell(problem);
        }
    }

    /** Forgets a filter with a name; it can be brought back. */
    public void forget(KeptFilter kept) {
        desk.steps()
                .tells(
                        "The filter “" + kept.name() + "” is gone.",
                        p -> p.with(p.settings()
                                .withFilters(p.settings().filters().stream()
                                        .filter(f -> !f.equals(kept))
                                        .toList())));
    }

    /** How the user has set views up. */
    public Habits habits() {
        return desk.habits();
    }

    /** How much of the ledger is kept. */
    public Retention retention() {
        return desk.project().settings().retention();
    }

    /** Keeps so much from now on; what is over goes by and by. */
    public void retain(Retention retention) {
        desk.change(p -> p.with(p.settings().with(retention)));
        desk.ledger().retain(retention);
    }

    /** Pins exchanges, so that they stay when others are let go, or no longer. */
    public void pin(Collection<Long> ids, boolean pinned) {
        desk.tasks()
                .run(
                        () -> {
                            desk.ledger().pin(ids, pinned);
                            return null;
                        },
                        done -> listings.replaceAll(l -> ids.contains(l.id()) ? pinned(l, pinned) : l),
                        desk::tell);
    }

    private static Listing pinned(Listing l, boolean pinned) {
        return new Listing(
                l.id(),
                l.started(),
                l.way(),
                l.contract(),
                l.operation(),
                l.endpoint(),
                l.origin(),
                l.status(),
                l.nanos(),
                l.sent(),
                l.received(),
                l.outcome(),
                l.note(),
                l.ties(),
                pinned);
    }

    /**
     * Two exchanges held against each other.
     *
     * @param requests what differs in their requests, {@code responses} in their answers
     * @param unlike why one side cannot be compared; empty where both can
     */
    public record Two(
            Exchange before,
            Exchange now,
            List<Difference> requests,
            List<Difference> responses,
            List<String> unlike) {}

    /** The two that are compared; null for none. */
    public ObjectProperty<Two> twoProperty() {
        return two;
    }

    /** Holds two exchanges against each other, the earlier first. */
    public void compare(long one, long other) {
        Optional<Redactor> redactor = desk.maskedProperty().get() ? Optional.of(desk.redactor()) : Optional.empty();
        desk.tasks()
                .run(
                        () -> {
                            desk.ledger().settle();
                            Exchange before =
                                    desk.ledger().get(Math.min(one, other)).orElseThrow();
                            Exchange now =
                                    desk.ledger().get(Math.max(one, other)).orElseThrow();
                            List<String> unlike = new ArrayList<>();
                            return new Two(
                                    before,
                                    now,
                                    differences(
                                            "request",
                                            Optional.of(before.request()),
                                            Optional.of(now.request()),
                                            redactor,
                                            unlike),
                                    differences("answer", before.response(), now.response(), redactor, unlike),
                                    unlike);
                        },
                        two::set,
                        desk::tell);
    }

    private static List<Difference> differences(
            String side,
            Optional<Message> before,
            Optional<Message> now,
            Optional<Redactor> redactor,
            List<String> unlike) {
        try {
            if (before.isEmpty() || now.isEmpty()) {
                throw Problem.input("One of them has none", null, null);
            }
            return Comparison.of(root(before.get(), redactor), root(now.get(), redactor), Set.of())
                    .differences();
        } catch (Problem problem) {
            unlike.add("The " + side + "s cannot be compared: " + problem.getMessage());
            return List.of();
        }
    }

    private static Element root(Message message, Optional<Redactor> redactor) {
        String text = message.text();
        String shown = redactor.map(r -> r.message(text)).orElse(text);
        return Xml.parse(shown.getBytes(StandardCharsets.UTF_8), "message", XmlLimits.MESSAGE)
                .getDocumentElement();
    }

    /** Looks at an exchange. */
    public void select(long id) {
        two.set(null);
        if (selected.get() != null && selected.get().id() == id) {
            return;
        }
        desk.tasks()
                .run(
                        () -> {
                            desk.ledger().settle();
                            return desk.ledger().get(id).orElse(null);
                        },
                        selected::set,
                        desk::tell);
    }

    /** Looks at an exchange in the traffic station. */
    public void open(long id) {
        select(id);
        desk.go(Station.TRAFFIC);
    }

    /** The newest exchanges as the tape shows them. */
    public TapeLine tape() {
        return tape;
    }

    /** The newest exchanges, newest first. */
    public List<Listing> latest(int most) {
        return tape.newest(most);
    }

    /** The last result of an operation on the ledger in this session or before. */
    public Optional<Listing> last(String contract, String operation) {
        return tape.newest(LOOK_BACK).stream()
                .filter(l -> l.way() == Exchange.Way.CALLED
                        && l.contract().equals(contract)
                        && l.operation().equals(operation))
                .findFirst();
    }
}

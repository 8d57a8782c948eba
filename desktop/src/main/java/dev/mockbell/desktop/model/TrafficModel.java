package dev.mockbell.desktop.model;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.MessageText;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.ledger.Listing;
import dev.mockbell.redact.Redactor;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.LongProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleLongProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/** The ledger as the traffic station and the tape show it. */
public final class TrafficModel {
    /** How many exchanges the list shows. */
    public static final int MOST = 2_000;

    private static final int ON_TAPE = 20_000;

    private final Desk desk;
    private final ObservableList<Listing> listings = FXCollections.observableArrayList();
    private final ObjectProperty<LedgerFilter> filter = new SimpleObjectProperty<>(LedgerFilter.ALL);
    private final ObjectProperty<Exchange> selected = new SimpleObjectProperty<>();
    private final LongProperty version = new SimpleLongProperty();
    private final Deque<Listing> tape = new ArrayDeque<>();
    private final Derived<Face, String> faces;
    private final AtomicBoolean due = new AtomicBoolean();

    public TrafficModel(Desk desk) {
        this.desk = desk;
        this.faces = new Derived<>(desk.tasks(), 8, Face::text, desk::tell);
        desk.ledger().listen(this::added);
        desk.tasks().run(() -> desk.ledger().list(LedgerFilter.ALL, 500), this::before, desk::tell);
        filter.addListener((o, was, now) -> refresh());
        desk.stationProperty().addListener((o, was, now) -> {
            if (now == Station.TRAFFIC) {
                refresh();
            }
        });
        refresh();
    }

    /** Puts what was there at the start before what has come since. */
    private void before(List<Listing> found) {
        synchronized (tape) {
            long first = tape.isEmpty() ? Long.MAX_VALUE : tape.peekFirst().id();
            for (Listing l : found) {
                if (l.id() < first) {
                    tape.addFirst(l);
                }
            }
        }
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

    /** Grows when a text has been made. */
    public IntegerProperty textsProperty() {
        return faces.changesProperty();
    }

    private void added(Listing listing) {
        synchronized (tape) {
            tape.addLast(listing);
            if (tape.size() > ON_TAPE) {
                tape.removeFirst();
            }
        }
        if (due.compareAndSet(false, true)) {
            desk.tasks().later(() -> {
                javafx.animation.PauseTransition pause =
                        new javafx.animation.PauseTransition(javafx.util.Duration.millis(120));
                pause.setOnFinished(e -> {
                    due.set(false);
                    if (desk.stationProperty().get() == Station.TRAFFIC) {
                        refresh();
                    } else {
                        version.set(version.get() + 1);
                    }
                });
                pause.play();
            });
        }
    }

    /** Reads the list anew. */
    public void refresh() {
        LedgerFilter wanted = filter.get();
        desk.tasks()
                .run(
                        () -> {
                            desk.ledger().settle();
                            return desk.ledger().list(wanted, MOST);
                        },
                        found -> {
                            if (wanted == filter.get() && !found.equals(listings)) {
                                listings.setAll(found);
                            }
                            version.set(version.get() + 1);
                        },
                        desk::tell);
    }

    /** The newest exchanges that pass the filter. */
    public ObservableList<Listing> listings() {
        return listings;
    }

    public ObjectProperty<LedgerFilter> filterProperty() {
        return filter;
    }

    /** The exchange looked at, with its bytes; null for none. */
    public ObjectProperty<Exchange> selectedProperty() {
        return selected;
    }

    /** Grows with every refresh of list or tape. */
    public LongProperty versionProperty() {
        return version;
    }

    /** Looks at an exchange. */
    public void select(long id) {
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

    /** The exchanges of a span of time, oldest first. */
    public List<Listing> onTape(Instant from) {
        List<Listing> found = new ArrayList<>();
        synchronized (tape) {
            for (Listing l : tape) {
                if (!l.started().isBefore(from)) {
                    found.add(l);
                }
            }
        }
        return found;
    }

    /** The newest exchanges, newest first. */
    public List<Listing> latest(int most) {
        List<Listing> found = new ArrayList<>();
        synchronized (tape) {
            var backwards = tape.descendingIterator();
            while (backwards.hasNext() && found.size() < most) {
                found.add(backwards.next());
            }
        }
        return found;
    }

    /** The last result of an operation on the ledger in this session or before. */
    public java.util.Optional<Listing> last(String contract, String operation) {
        synchronized (tape) {
            var backwards = tape.descendingIterator();
            while (backwards.hasNext()) {
                Listing l = backwards.next();
                if (l.way() == Exchange.Way.CALLED
                        && l.contract().equals(contract)
                        && l.operation().equals(operation)) {
                    return java.util.Optional.of(l);
                }
            }
        }
        return java.util.Optional.empty();
    }
}

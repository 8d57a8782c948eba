package dev.mockbell.desktop.model;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.LedgerFilter;
import dev.mockbell.exchange.Listing;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.concurrent.atomic.AtomicBoolean;
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
    private final AtomicBoolean due = new AtomicBoolean();

    public TrafficModel(Desk desk) {
        this.desk = desk;
        List<Listing> before = desk.ledger().list(LedgerFilter.ALL, 500);
        for (int i = before.size() - 1; i >= 0; i--) {
            tape.add(before.get(i));
        }
        desk.ledger().listen(this::added);
        filter.addListener((o, was, now) -> refresh());
        desk.stationProperty().addListener((o, was, now) -> {
            if (now == Station.TRAFFIC) {
                refresh();
            }
        });
        refresh();
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

package dev.mockbell.desktop.model;

import dev.mockbell.check.Check;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.suite.Case;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.SimpleIntegerProperty;

/** How the cases of an operation went before this session, by what the ledger tells. */
public final class EarlierResults {
    private static final int LOOK_BACK = 300;

    private final Desk desk;
    private final Map<String, Outcome> byTitle = new HashMap<>();
    private final IntegerProperty changes = new SimpleIntegerProperty();

    EarlierResults(Desk desk) {
        this.desk = desk;
    }

    /** How the last call of a case went. */
    public Optional<Outcome> of(Case kept) {
        Outcome outcome = byTitle.get(kept.title());
        boolean wanted = outcome == Outcome.FAULT && kept.checks().stream().anyMatch(Check::wantsFault);
        return Optional.ofNullable(wanted ? Outcome.FINE : outcome);
    }

    /** Counts up when earlier results have come. */
    public IntegerProperty changesProperty() {
        return changes;
    }

    /** Looks for those of an operation; they come later. */
    void look(OperationPlace place) {
        byTitle.clear();
        LedgerFilter calls = LedgerFilter.ALL.withWay(Exchange.Way.CALLED).withOperation(place.key());
        desk.tasks()
                .run(
                        () -> desk.ledger().list(calls, LOOK_BACK),
                        found -> {
                            if (place.equals(desk.placeProperty().get())) {
                                found.stream()
                                        .filter(l -> l.contract()
                                                .equals(place.contract().name()))
                                        .forEach(l -> byTitle.putIfAbsent(l.origin(), l.outcome()));
                                changes.set(changes.get() + 1);
                            }
                        },
                        desk::tell);
    }
}

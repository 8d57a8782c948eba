package dev.mockbell.desktop.model;

import dev.mockbell.contract.Contract;
import dev.mockbell.listing.FoundContract;
import dev.mockbell.listing.Listing;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/** The contracts that a listing named, to choose from. Used on the interface thread. */
public final class FoundModel {
    private final ContractsModel contracts;
    private final ReadOnlyObjectWrapper<Shown> shown = new ReadOnlyObjectWrapper<>();
    private final Set<FoundContract> ticked = new LinkedHashSet<>();

    FoundModel(ContractsModel contracts) {
        this.contracts = contracts;
    }

    /**
     * What is looked at.
     *
     * @param took how long the search was
     */
    public record Shown(Listing listing, Duration took) {}

    /** Null while there is nothing to choose from. */
    public ReadOnlyObjectProperty<Shown> shownProperty() {
        return shown.getReadOnlyProperty();
    }

    void show(Listing listing, Duration took) {
        ticked.clear();
        ticked.addAll(listing.readable());
        shown.set(new Shown(listing, took));
    }

    /** Puts the listing aside. */
    public void forget() {
        ticked.clear();
        shown.set(null);
    }

    public boolean isTicked(FoundContract found) {
        return ticked.contains(found);
    }

    /** Chooses a contract or does not; one that cannot be read is never chosen. */
    public void tick(FoundContract found, boolean on) {
        if (on && found.contract().isPresent()) {
            ticked.add(found);
        } else {
            ticked.remove(found);
        }
    }

    /** Chooses all that can be read, or none. */
    public void tickAll(boolean on) {
        ticked.clear();
        if (on) {
            ticked.addAll(shown.get().listing().readable());
        }
    }

    /** How many are chosen. */
    public int count() {
        return ticked.size();
    }

    /** Keeps those that are chosen in the project. */
    public void add() {
        List<Contract> chosen = shown.get().listing().contracts().stream()
                .filter(ticked::contains)
                .flatMap(f -> f.contract().stream())
                .toList();
        if (!chosen.isEmpty()) {
            contracts.add(chosen);
        }
    }

    /** Takes the address that answers in place of the one that does not. */
    public void useInstead(FoundContract found) {
        Shown before = shown.get();
        String address = found.instead().orElseThrow();
        contracts.working(
                address,
                stop -> contracts.fetch(address, stop),
                read -> {
                    FoundContract now =
                            new FoundContract(found.name(), address, Optional.of(read), "", Optional.empty());
                    List<FoundContract> all = new ArrayList<>(before.listing().contracts());
                    all.replaceAll(f -> f.equals(found) ? now : f);
                    Listing old = before.listing();
                    ticked.add(now);
                    shown.set(new Shown(new Listing(old.address(), old.kind(), all, old.more()), before.took()));
                },
                () -> useInstead(found));
    }
}

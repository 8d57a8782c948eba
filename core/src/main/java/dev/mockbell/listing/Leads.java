package dev.mockbell.listing;

import java.net.URI;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** What a listing leads to: contracts, and further listings. */
final class Leads {
    private static final int MOST = 5_000;

    private final Map<String, Lead> contracts = new LinkedHashMap<>();
    private final Set<URI> listings = new LinkedHashSet<>();

    void contract(String name, URI address, boolean guessed) {
        Lead lead = new Lead(name.strip(), address, guessed);
        if (contracts.size() < MOST) {
            contracts.merge(lead.key(), lead, (was, now) -> was.guessed() && !now.guessed() ? now : was);
        }
    }

    void listing(URI address) {
        if (listings.size() < MOST) {
            listings.add(address);
        }
    }

    void addAll(Leads other) {
        other.contracts.values().forEach(l -> contract(l.name(), l.address(), l.guessed()));
    }

    List<Lead> contracts() {
        return List.copyOf(contracts.values());
    }

    Set<URI> listings() {
        return listings;
    }

    boolean isEmpty() {
        return contracts.isEmpty() && listings.isEmpty();
    }
}

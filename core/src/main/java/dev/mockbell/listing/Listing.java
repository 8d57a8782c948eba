package dev.mockbell.listing;

import java.util.List;

/**
 * What an address lists.
 *
 * @param kind what is there
 * @param contracts in the order in which they are listed
 * @param more how many further ones were listed and not looked at
 */
public record Listing(String address, Kind kind, List<FoundContract> contracts, int more) {
    public Listing {
        contracts = List.copyOf(contracts);
    }

    /** What is at an address. */
    public enum Kind {
        /** A WSDL, which lists itself alone. */
        WSDL("contract"),
        PAGE("page"),
        /** A WS-Inspection document. */
        INSPECTION("inspection document"),
        /** A UDDI version 3 registry. */
        REGISTRY("registry"),
        FOLDER("folder");

        private final String noun;

        Kind(String noun) {
            this.noun = noun;
        }

        /** For people: "4 contracts found on that page". */
        public String noun() {
            return noun;
        }
    }

    /** Those that were read. */
    public List<FoundContract> readable() {
        return contracts.stream().filter(c -> c.contract().isPresent()).toList();
    }
}

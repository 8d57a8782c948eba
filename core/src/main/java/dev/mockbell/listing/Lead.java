package dev.mockbell.listing;

import java.net.URI;

/**
 * An address where a contract may be.
 *
 * @param name what the listing calls it; empty for nothing
 * @param guessed whether the listing gives the service's address and not the WSDL's, so that nothing there is no mistake of it
 */
record Lead(String name, URI address, boolean guessed) {
    /** What is the same contract in another form is one. */
    String key() {
        String query = address.getRawQuery() == null ? "" : address.getRawQuery();
        String text = address.toString().replaceAll("#.*", "");
        return query.matches("(?i)(single)?wsdl(=.*)?") ? text.substring(0, text.indexOf('?')) : text;
    }
}

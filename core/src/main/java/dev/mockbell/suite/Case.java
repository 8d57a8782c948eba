package dev.mockbell.suite;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.exchange.HttpMessage.Header;
import java.util.List;

/**
 * A request that is kept, with what its answer must hold to.
 *
 * @param id short name, unique within its operation; the file's name
 * @param contract the contract's name in the project
 * @param operation the operation's key
 * @param port the port to call; empty for the contract's first that offers the operation
 * @param body the payload, or a whole envelope, with expressions in braces
 * @param headers further HTTP headers, with expressions in braces
 */
public record Case(
        String id,
        String title,
        String description,
        String contract,
        String operation,
        String port,
        String body,
        List<Header> headers,
        List<Check> checks,
        List<Capture> captures) {
    /** The case's full name within the project: {@code hut-booking/ReserveBunks/two-nights}. */
    public String reference() {
        return contract + "/" + operation + "/" + id;
    }

    public Case withBody(String text) {
        return new Case(id, title, description, contract, operation, port, text, headers, checks, captures);
    }

    public Case withPort(String name) {
        return new Case(id, title, description, contract, operation, name, body, headers, checks, captures);
    }

    public Case withName(String newId, String newTitle) {
        return new Case(newId, newTitle, description, contract, operation, port, body, headers, checks, captures);
    }

    public Case withChecks(List<Check> list) {
        return new Case(id, title, description, contract, operation, port, body, headers, List.copyOf(list), captures);
    }

    public Case withCaptures(List<Capture> list) {
        return new Case(id, title, description, contract, operation, port, body, headers, checks, List.copyOf(list));
    }
}

package dev.mockbell.suite;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.exchange.HttpMessage.Header;
import dev.mockbell.expression.Variable;
import java.util.List;

/**
 * A request that is kept, with what its answer must hold to.
 *
 * @param id short name, unique within its operation; the file's name
 * @param contract the contract's name in the project
 * @param operation the operation's key
 * @param port the port to call; empty for the contract's first that offers the operation
 * @param body the payload, or a whole envelope, with expressions in braces
 * @param soapHeaders the blocks of the SOAP header as XML, with expressions in braces; empty for none
 * @param headers further HTTP headers, with expressions in braces
 * @param variables values of the case's own; captures and known values of a run come before them
 */
public record Case(
        String id,
        String title,
        String description,
        String contract,
        String operation,
        String port,
        String body,
        String soapHeaders,
        List<Header> headers,
        List<Variable> variables,
        List<Check> checks,
        List<Capture> captures) {
    /** A case of a body alone, without headers of its own. */
    public Case(
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
        this(id, title, description, contract, operation, port, body, "", headers, List.of(), checks, captures);
    }

    /** The case's full name within the project: {@code hut-booking/ReserveBunks/two-nights}. */
    public String reference() {
        return contract + "/" + operation + "/" + id;
    }

    public Case withBody(String text) {
        return new Case(
                id,
                title,
                description,
                contract,
                operation,
                port,
                text,
                soapHeaders,
                headers,
                variables,
                checks,
                captures);
    }

    public Case withPort(String name) {
        return new Case(
                id,
                title,
                description,
                contract,
                operation,
                name,
                body,
                soapHeaders,
                headers,
                variables,
                checks,
                captures);
    }

    public Case withName(String newId, String newTitle) {
        return new Case(
                newId,
                newTitle,
                description,
                contract,
                operation,
                port,
                body,
                soapHeaders,
                headers,
                variables,
                checks,
                captures);
    }

    /** The same under another operation. */
    public Case under(String otherOperation, String newId) {
        return new Case(
                newId,
                title,
                description,
                contract,
                otherOperation,
                port,
                body,
                soapHeaders,
                headers,
                variables,
                checks,
                captures);
    }

    public Case withDescription(String text) {
        return new Case(
                id, title, text, contract, operation, port, body, soapHeaders, headers, variables, checks, captures);
    }

    public Case withSoapHeaders(String xml) {
        return new Case(
                id, title, description, contract, operation, port, body, xml, headers, variables, checks, captures);
    }

    public Case withHeaders(List<Header> list) {
        return new Case(
                id,
                title,
                description,
                contract,
                operation,
                port,
                body,
                soapHeaders,
                List.copyOf(list),
                variables,
                checks,
                captures);
    }

    public Case withVariables(List<Variable> list) {
        return new Case(
                id,
                title,
                description,
                contract,
                operation,
                port,
                body,
                soapHeaders,
                headers,
                List.copyOf(list),
                checks,
                captures);
    }

    public Case withChecks(List<Check> list) {
        return new Case(
                id,
                title,
                description,
                contract,
                operation,
                port,
                body,
                soapHeaders,
                headers,
                variables,
                List.copyOf(list),
                captures);
    }

    public Case withCaptures(List<Capture> list) {
        return new Case(
                id,
                title,
                description,
                contract,
                operation,
                port,
                body,
                soapHeaders,
                headers,
                variables,
                checks,
                List.copyOf(list));
    }
}

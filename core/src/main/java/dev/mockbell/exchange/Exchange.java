package dev.mockbell.exchange;

import java.time.Instant;
import java.util.Optional;

/**
 * A request and what became of it, whoever started it. Everything that shows, checks or keeps traffic works on this
 * record.
 *
 * @param id its number on the ledger; 0 before it is there
 * @param contract the contract's name in the project; empty when unknown
 * @param operation empty when unknown
 * @param endpoint the address called, or the local address that answered
 * @param origin what started it, for people: a case's title, a suite's step, "answer 2"
 * @param response empty when none came
 * @param secured what TLS used on its connection; empty where there was none
 * @param note what there is to say about the outcome: the fault's name, why there was no answer
 * @param ties who asked, and what it belongs to
 */
public record Exchange(
        long id,
        Instant started,
        Way way,
        String contract,
        String operation,
        String endpoint,
        String origin,
        Message request,
        Optional<Message> response,
        Timing timing,
        Optional<Secured> secured,
        Outcome outcome,
        String note,
        Ties ties) {
    /** One that nobody asked for by an address and that belongs to nothing. */
    public Exchange(
            long id,
            Instant started,
            Way way,
            String contract,
            String operation,
            String endpoint,
            String origin,
            Message request,
            Optional<Message> response,
            Timing timing,
            Optional<Secured> secured,
            Outcome outcome,
            String note) {
        this(
                id, started, way, contract, operation, endpoint, origin, request, response, timing, secured, outcome,
                note, Ties.NONE);
    }

    /** One without TLS, or of which nothing is known of it. */
    public Exchange(
            long id,
            Instant started,
            Way way,
            String contract,
            String operation,
            String endpoint,
            String origin,
            Message request,
            Optional<Message> response,
            Timing timing,
            Outcome outcome,
            String note) {
        this(
                id,
                started,
                way,
                contract,
                operation,
                endpoint,
                origin,
                request,
                response,
                timing,
                Optional.empty(),
                outcome,
                note);
    }

    /** Who spoke first. */
    public enum Way {
        CALLED,
        ANSWERED,
        TAPPED
    }

    /** How it went, in one of three shapes. */
    public enum Outcome {
        FINE,
        FAULT,
        FAILED
    }

    /** The status of the response; 0 when none came. */
    public int status() {
        return response.map(Message::status).orElse(0);
    }

    /** The same exchange with its number on the ledger. */
    public Exchange withId(long number) {
        return new Exchange(
                number, started, way, contract, operation, endpoint, origin, request, response, timing, secured,
                outcome, note, ties);
    }

    /** With another outcome, for when a check says that it is not as fine as it looked. */
    public Exchange withOutcome(Outcome other, String why) {
        return new Exchange(
                id, started, way, contract, operation, endpoint, origin, request, response, timing, secured, other, why,
                ties);
    }

    /** With the response as it is once it was read: decrypted. */
    public Exchange withResponse(Message other) {
        return new Exchange(
                id,
                started,
                way,
                contract,
                operation,
                endpoint,
                origin,
                request,
                Optional.of(other),
                timing,
                secured,
                outcome,
                note,
                ties);
    }

    /** With what it has to do with. */
    public Exchange with(Ties other) {
        return new Exchange(
                id, started, way, contract, operation, endpoint, origin, request, response, timing, secured, outcome,
                note, other);
    }
}

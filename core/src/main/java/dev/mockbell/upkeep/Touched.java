package dev.mockbell.upkeep;

import dev.mockbell.change.ContractChange;
import java.util.List;
import java.util.Optional;

/**
 * Something of a project that a contract's changes touch.
 *
 * @param name which one, for people
 * @param at where it is kept: a case's reference, a suite's short name
 * @param words what is so with it, a phrase
 * @param by the changes that touch it
 * @param ways what can be done, the proposed one first
 */
public record Touched(Kind kind, String name, String at, String words, List<ContractChange> by, List<Way> ways) {
    public Touched {
        by = List.copyOf(by);
        ways = List.copyOf(ways);
    }

    /** What it is. */
    public enum Kind {
        CASE("case"),
        KNOWN_VALUE("known value"),
        CHECK("check"),
        CAPTURE("capture"),
        BASELINE("baseline"),
        MOCK_ANSWER("mock answer"),
        SUITE("suite"),
        LOAD("load"),
        ENVIRONMENT("environment");

        private final String noun;

        Kind(String noun) {
            this.noun = noun;
        }

        /** In the singular; the plural is made with an s. */
        public String noun() {
            return noun;
        }
    }

    /** What is proposed, where that is something. */
    public Optional<Way> proposal() {
        return ways.stream().findFirst().filter(w -> !w.equals(Way.LEAVE));
    }
}

package dev.mockbell.mock;

import java.time.Instant;

/**
 * A request that a mock got.
 *
 * @param operation empty when none matched
 * @param answer which answer was given, from 0; -1 when none was
 * @param title what was given, for people
 * @param why why nothing matched, a sentence; empty when something did
 */
public record MockEvent(Instant at, String operation, int answer, String title, String why) {
    public boolean matched() {
        return answer >= 0;
    }
}

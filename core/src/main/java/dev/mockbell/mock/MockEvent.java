package dev.mockbell.mock;

import dev.mockbell.content.Content;
import java.time.Instant;

/**
 * A request that a mock got.
 *
 * @param operation empty when none matched
 * @param answer which answer was given, from 0; -1 when none was
 * @param title what was given, for people
 * @param why why nothing matched, a sentence; empty when something did
 * @param request what came, as far as it is kept
 */
public record MockEvent(Instant at, String operation, int answer, String title, String why, Kept request) {
    /** One whose request is not kept. */
    public MockEvent(Instant at, String operation, int answer, String title, String why) {
        this(at, operation, answer, title, why, Kept.NONE);
    }

    /**
     * A request for a second look.
     *
     * @param body in UTF-8; empty when it was too large to keep, or there was none
     */
    public record Kept(String path, String contentType, String action, Content body) {
        static final Kept NONE = new Kept("", "", "", Content.NONE);

        public boolean isThere() {
            return !body.isEmpty();
        }
    }

    public boolean matched() {
        return answer >= 0;
    }
}

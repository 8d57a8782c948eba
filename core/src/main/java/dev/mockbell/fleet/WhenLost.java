package dev.mockbell.fleet;

import dev.mockbell.choice.Choice;

/** What becomes of a run when a worker is lost. */
public enum WhenLost implements Choice {
    /** The others make its part too. */
    SHARE("share", "The others take over"),
    /** It ends, with a report. */
    END("end", "The run ends");

    private final String code;
    private final String title;

    WhenLost(String code, String title) {
        this.code = code;
        this.title = title;
    }

    @Override
    public String code() {
        return code;
    }

    @Override
    public String title() {
        return title;
    }
}

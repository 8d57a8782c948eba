package dev.mockbell.change;

import dev.mockbell.choice.Choice;

/** Of whom it is asked whether a change breaks him, who was made by the contract as it was. */
public enum Side implements Choice {
    CALLERS("callers", "For callers"),
    SERVICE("service", "For the service");

    private final String code;
    private final String title;

    Side(String code, String title) {
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

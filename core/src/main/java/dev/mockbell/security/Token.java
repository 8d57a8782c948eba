package dev.mockbell.security;

import dev.mockbell.choice.Choice;

/** How the password of a UsernameToken goes (UsernameToken Profile 1.1.1 §3.1). */
public enum Token implements Choice {
    NONE("none", "Left out"),
    /** As it is. */
    TEXT("text", "Password as text"),
    /** As SHA-1 of nonce, time and password. */
    DIGEST("digest", "Password as a digest");

    private final String code;
    private final String title;

    Token(String code, String title) {
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

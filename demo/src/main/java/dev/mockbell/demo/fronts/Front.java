package dev.mockbell.demo.fronts;

/** A way to the services that asks for something. */
public enum Front {
    BASIC("Behind Basic"),
    DIGEST("Behind Digest"),
    TLS("Behind TLS"),
    CLIENT_CERTIFICATE("With a client certificate"),
    SEALED("Signed and encrypted"),
    SLOW("Slow");

    private final String title;

    Front(String title) {
        this.title = title;
    }

    /** For people. */
    public String title() {
        return title;
    }

    /** Whether TLS is spoken there. */
    public boolean secure() {
        return this == TLS || this == CLIENT_CERTIFICATE;
    }
}

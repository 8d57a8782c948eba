package dev.mockbell.contract;

/** What a binding binds to. */
public enum Protocol {
    SOAP11("soap11", "SOAP 1.1"),
    SOAP12("soap12", "SOAP 1.2"),
    HTTP("http", "HTTP"),
    OTHER("other", "other");

    private final String code;
    private final String title;

    Protocol(String code, String title) {
        this.code = code;
        this.title = title;
    }

    /** The namespace of the envelope; empty when it is not SOAP. */
    public String envelope() {
        return switch (this) {
            case SOAP11 -> "http://schemas.xmlsoap.org/soap/envelope/";
            case SOAP12 -> "http://www.w3.org/2003/05/soap-envelope";
            default -> "";
        };
    }

    /** As in JSON. */
    public String code() {
        return code;
    }

    /** As shown to people. */
    public String title() {
        return title;
    }

    /** Whether its messages are SOAP envelopes, whatever carries them. */
    public boolean soap() {
        return this == SOAP11 || this == SOAP12;
    }
}

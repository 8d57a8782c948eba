package dev.mockbell.mock;

/**
 * Whether a mock speaks TLS, and by which key.
 *
 * @param file of its key and certificate, a path within the project's folder; empty for one that the project's own authority issues
 * @param password opens the file; may be a secret, {@code {$secret:name}}
 * @param asksClients whether clients must bring a certificate
 * @param authorities a file with those whose certificates count, a path within the project's folder; empty for the project's own
 */
public record MockTls(boolean on, String file, String password, boolean asksClients, String authorities) {
    /** Plain HTTP. */
    public static final MockTls OFF = new MockTls(false, "", "", false, "");

    /** By a certificate that is made for it. */
    public static final MockTls MADE = new MockTls(true, "", "", false, "");

    @Override
    public String toString() {
        return on ? "TLS" : "no TLS";
    }
}

package dev.mockbell.wire;

import java.nio.charset.StandardCharsets;
import java.util.Base64;

/** What opens a protected address. Its text never shows the secret. */
public sealed interface Login {
    /** The value of the Authorization header. */
    String header();

    /** A name and a password (RFC 7617), sent as UTF-8. */
    record Basic(String user, String password) implements Login {
        @Override
        public String header() {
            return "Basic "
                    + Base64.getEncoder().encodeToString((user + ":" + password).getBytes(StandardCharsets.UTF_8));
        }

        @Override
        public String toString() {
            return "Basic login of " + user;
        }
    }

    /** A bearer token (RFC 6750). */
    record Bearer(String token) implements Login {
        @Override
        public String header() {
            return "Bearer " + token;
        }

        @Override
        public String toString() {
            return "bearer token";
        }
    }
}

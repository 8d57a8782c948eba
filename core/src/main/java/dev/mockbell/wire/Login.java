package dev.mockbell.wire;

import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.Optional;

/** What opens a protected address. Its text never shows the secret. */
public sealed interface Login {
    /** The value of the Authorization header that is sent without being asked for; empty when the server must ask first. */
    Optional<String> atOnce();

    /** A name and a password that are sent in the way that the server asks for: Digest (RFC 7616) or Basic. */
    record WhenAsked(String user, String password) implements Login {
        @Override
        public Optional<String> atOnce() {
            return Optional.empty();
        }

        @Override
        public String toString() {
            return "login of " + user;
        }
    }

    /** A name and a password (RFC 7617), sent as UTF-8. */
    record Basic(String user, String password) implements Login {
        @Override
        public Optional<String> atOnce() {
            return Optional.of(header());
        }

        String header() {
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
        public Optional<String> atOnce() {
            return Optional.of("Bearer " + token);
        }

        @Override
        public String toString() {
            return "bearer token";
        }
    }
}

package dev.mockbell.mock;

import dev.mockbell.choice.Choice;

/**
 * What a mock asks of who calls.
 *
 * @param user who may call
 * @param password his; may be a secret, {@code {$secret:name}}
 * @param signed whether the body must be signed
 * @param signers a file with certificates whose signatures count, or those of issuers; a path within the project's folder
 */
public record AskedLogin(Way way, String user, String password, boolean signed, String signers) {
    /** Nothing. */
    public static final AskedLogin NONE = new AskedLogin(Way.NONE, "", "", false, "");

    /** How somebody logs in. */
    public enum Way implements Choice {
        NONE("none", "Nobody"),
        /** RFC 7617. */
        BASIC("basic", "By Basic"),
        /** UsernameToken Profile 1.1.1 §3.1. */
        TOKEN_TEXT("token-text", "By UsernameToken, password as text"),
        TOKEN_DIGEST("token-digest", "By UsernameToken, password as a digest");

        private final String code;
        private final String title;

        Way(String code, String title) {
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

    /** Whether it is told outside of the envelope. */
    boolean isByHttp() {
        return way == Way.BASIC;
    }

    /** What of it can be asked of an envelope alone. */
    AskedLogin ofEnvelope() {
        return isByHttp() ? new AskedLogin(Way.NONE, "", "", signed, signers) : this;
    }

    /** Whether the security header of the envelope is looked at. */
    boolean looksAtEnvelope() {
        return signed || way == Way.TOKEN_TEXT || way == Way.TOKEN_DIGEST;
    }

    @Override
    public String toString() {
        return "login " + way.code();
    }
}

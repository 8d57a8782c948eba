package dev.mockbell.wire;

import java.net.URI;
import java.util.Optional;

/** Gives a login when an address asks for one. Called from the thread that fetches, which waits for it. */
@FunctionalInterface
public interface LoginAsker {
    /** Never gives one. */
    LoginAsker NONE = (address, challenge, again) -> Optional.empty();

    /**
     * Asks for a login.
     *
     * @param challenge the WWW-Authenticate header, which names the scheme and the realm; may be empty
     * @param again whether the one given before was refused
     * @return empty to give up
     */
    Optional<Login> ask(URI address, String challenge, boolean again);
}

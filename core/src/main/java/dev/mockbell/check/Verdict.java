package dev.mockbell.check;

/** How something came out. */
public enum Verdict {
    PASSED,
    FAILED,
    /** It did not come to it. */
    NOT_RUN,
    /** It was not meant to run: switched off, not chosen, or its condition did not hold. */
    OFF
}

package dev.mockbell.load;

import java.util.LinkedHashMap;
import java.util.Map;

/**
 * How a plan goes about its work, beside how much of it there is.
 *
 * @param timeoutMillis how long to wait for one answer
 * @param keepsConnections whether connections are used again; else each request has one of its own
 * @param mostConnections how many there may be at a time
 * @param resumesTls whether a new TLS connection may take up an earlier session (RFC 8446 §2.2); else each shakes hands in full
 * @param warmUpSeconds for how long the plan runs at its first level before anything counts
 * @param validatedPercent of how many good answers the body is held against the contract, in per cent
 * @param seed where chance starts, so that a run can be repeated
 * @param failuresKept how many failures of each reason are kept whole
 */
public record Conduct(
        long timeoutMillis,
        boolean keepsConnections,
        int mostConnections,
        boolean resumesTls,
        int warmUpSeconds,
        double validatedPercent,
        long seed,
        int failuresKept) {
    /** As a plan starts out. */
    public static final Conduct USUAL = new Conduct(10_000, true, 5_000, true, 0, 0, 1, 20);

    public Conduct withTimeout(long millis) {
        return new Conduct(
                millis,
                keepsConnections,
                mostConnections,
                resumesTls,
                warmUpSeconds,
                validatedPercent,
                seed,
                failuresKept);
    }

    public Conduct withConnections(boolean kept, int most) {
        return new Conduct(timeoutMillis, kept, most, resumesTls, warmUpSeconds, validatedPercent, seed, failuresKept);
    }

    public Conduct withWarmUp(int seconds) {
        return new Conduct(
                timeoutMillis,
                keepsConnections,
                mostConnections,
                resumesTls,
                seconds,
                validatedPercent,
                seed,
                failuresKept);
    }

    public Conduct withValidated(double percent) {
        return new Conduct(
                timeoutMillis,
                keepsConnections,
                mostConnections,
                resumesTls,
                warmUpSeconds,
                percent,
                seed,
                failuresKept);
    }

    public Conduct withSeed(long other) {
        return new Conduct(
                timeoutMillis,
                keepsConnections,
                mostConnections,
                resumesTls,
                warmUpSeconds,
                validatedPercent,
                other,
                failuresKept);
    }

    public Conduct withTlsResumed(boolean resumes) {
        return new Conduct(
                timeoutMillis,
                keepsConnections,
                mostConnections,
                resumes,
                warmUpSeconds,
                validatedPercent,
                seed,
                failuresKept);
    }

    /** Each part of it by its name, as one says it. */
    Map<String, String> words() {
        Map<String, String> words = new LinkedHashMap<>();
        words.put("waits for an answer", timeoutMillis + " ms");
        words.put("connections", (keepsConnections ? "kept" : "new for each request") + ", at most " + mostConnections);
        words.put("TLS sessions", resumesTls ? "taken up again" : "always new");
        words.put("warm-up", warmUpSeconds + " s");
        words.put("answers held against the contract", Plain.number(validatedPercent) + " %");
        words.put("seed", String.valueOf(seed));
        words.put("failures kept of each reason", String.valueOf(failuresKept));
        return words;
    }
}

package dev.mockbell.check;

/**
 * What became of a check.
 *
 * @param title the check in a few words
 * @param expected what should be; empty when the title says it
 * @param found what was
 * @param where the path or part looked at; may be empty
 */
public record CheckResult(Verdict verdict, String title, String expected, String found, String where) {
    public static CheckResult passed(String title, String found, String where) {
        return new CheckResult(Verdict.PASSED, title, "", found, where);
    }

    public static CheckResult failed(String title, String expected, String found, String where) {
        return new CheckResult(Verdict.FAILED, title, expected, found, where);
    }

    public static CheckResult notRun(String title, String why) {
        return new CheckResult(Verdict.NOT_RUN, title, "", why, "");
    }

    public boolean passed() {
        return verdict == Verdict.PASSED;
    }

    /** Whether should be and found stand beside each other: it did not pass, and what should be is not said by its title alone. */
    public boolean hasSides() {
        return !passed() && !expected.isEmpty();
    }

    /** Should be and found, what is different in them told apart. */
    public Contrast contrast() {
        return found.isEmpty() ? new Contrast("", expected, "nothing", "") : Contrast.of(expected, found);
    }

    /** The failure as a sentence: the check, should be, found, where. */
    public String sentence() {
        String finding = finding();
        return finding.isEmpty() ? title : finding.startsWith(" ") ? title + finding : title + ": " + finding;
    }

    /** What was found wrong, to stand beside the title: should be, found, where. Empty when it passed. */
    public String finding() {
        if (verdict == Verdict.PASSED) {
            return "";
        }
        StringBuilder text = new StringBuilder();
        if (!expected.isEmpty()) {
            text.append("should be ").append(expected).append(", found ").append(found.isEmpty() ? "nothing" : found);
        } else if (!found.isEmpty()) {
            text.append(found);
        }
        if (!where.isEmpty()) {
            text.append(" (").append(where).append(')');
        }
        return text.toString();
    }
}

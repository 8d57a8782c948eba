package dev.mockbell.load;

/** Numbers as they were typed. */
public final class Plain {
    private Plain() {}

    /** As short as it can be written: whole when it is. */
    public static String number(double value) {
        return value == Math.rint(value) ? Long.toString((long) value) : Double.toString(value);
    }
}

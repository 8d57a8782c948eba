package dev.mockbell.choice;

/** One of several ways to do something, which stands in files by a code and is shown to people by a title. */
public interface Choice {
    /** As in files and options. */
    String code();

    /** For people. */
    String title();

    /** The one of that code; another when there is none. */
    static <E extends Enum<E> & Choice> E of(Class<E> kind, String code, E other) {
        for (E one : kind.getEnumConstants()) {
            if (one.code().equals(code)) {
                return one;
            }
        }
        return other;
    }
}

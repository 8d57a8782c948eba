package dev.mockbell.project;

import java.text.Normalizer;
import java.util.Locale;
import java.util.function.Predicate;

/** Short names for files, made from titles. */
public final class Names {
    private Names() {}

    /** {@code Two nights, half board} gives {@code two-nights-half-board}; never empty. */
    public static String of(String title) {
        String plain = Normalizer.normalize(title, Normalizer.Form.NFKD)
                .replaceAll("\\p{M}+", "")
                .replaceAll("([a-z])([A-Z])", "$1-$2")
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^\\p{L}\\p{N}]+", "-")
                .replaceAll("(^-+)|(-+$)", "");
        String cut = plain.length() > 60 ? plain.substring(0, 60).replaceAll("-+$", "") : plain;
        return cut.isEmpty() ? "unnamed" : cut;
    }

    /** As {@link #of(String)}, with a number behind it while {@code taken} says so. */
    public static String free(String title, Predicate<String> taken) {
        String base = of(title);
        String name = base;
        for (int i = 2; taken.test(name); i++) {
            name = base + "-" + i;
        }
        return name;
    }
}

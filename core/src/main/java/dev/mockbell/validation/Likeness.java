package dev.mockbell.validation;

import java.util.Locale;

/** How like two names are. */
public final class Likeness {
    private Likeness() {}

    /** From 0, nothing in common, to 1, the same but for case; by the edits that lead from one to the other. */
    public static double of(String one, String other) {
        String a = one.toLowerCase(Locale.ROOT);
        String b = other.toLowerCase(Locale.ROOT);
        int longer = Math.max(a.length(), b.length());
        if (longer == 0) {
            return 1;
        }
        double byEdits = 1 - (double) edits(a, b) / longer;
        boolean within = Math.min(a.length(), b.length()) >= 4 && (a.contains(b) || b.contains(a));
        return within ? Math.max(byEdits, 0.6) : byEdits;
    }

    private static int edits(String a, String b) {
        int[] row = new int[b.length() + 1];
        for (int j = 0; j <= b.length(); j++) {
            row[j] = j;
        }
        for (int i = 1; i <= a.length(); i++) {
            int diagonal = row[0];
            row[0] = i;
            for (int j = 1; j <= b.length(); j++) {
                int above = row[j];
                int change = diagonal + (a.charAt(i - 1) == b.charAt(j - 1) ? 0 : 1);
                row[j] = Math.min(change, Math.min(above, row[j - 1]) + 1);
                diagonal = above;
            }
        }
        return row[b.length()];
    }
}

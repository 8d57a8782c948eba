package dev.mockbell.upkeep;

/** Paths in messages, without what tells one of several from the others. */
final class Paths {
    private Paths() {}

    /** {@code /ns:Root/ns:guest[2]/@age} as {@code guest/age}: from below the root, local names alone. */
    static String plain(String path) {
        String steps = path.replaceAll("\\[[^\\]]*]", "")
                .replaceAll("\\([^)]*\\)/?", "")
                .replaceAll("(?<=/|^)(\\*|[\\w.-]+):", "")
                .replace("@", "");
        String relative = steps.startsWith("/") ? steps.substring(1) : steps;
        int root = relative.indexOf('/');
        return root < 0 ? "" : relative.substring(root + 1);
    }

    /** Whether a path is another or leads on from it. */
    static boolean isWithin(String path, String other) {
        return path.equals(other) || path.startsWith(other + "/");
    }
}

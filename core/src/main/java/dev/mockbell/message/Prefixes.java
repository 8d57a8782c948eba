package dev.mockbell.message;

import java.util.Locale;

/** Short prefixes for namespaces, made from their last telling words. */
final class Prefixes {
    private Prefixes() {}

    /** {@code urn:northfell:hut-booking} gives {@code hb}; {@code http://x.example/stay/v2} gives {@code stay}. */
    static String suggest(String namespace) {
        String[] parts = namespace.replaceAll("[?#].*$", "").split("[/:]+");
        for (int i = parts.length - 1; i > 0; i--) {
            String part = parts[i].toLowerCase(Locale.ROOT);
            String[] words = part.split("[^a-z]+");
            StringBuilder initials = new StringBuilder();
            for (String word : words) {
                if (!word.isEmpty()) {
                    initials.append(word.charAt(0));
                }
            }
            String whole = part.replaceAll("[^a-z]", "");
            boolean version = part.matches("v?\\d+(\\.\\d+)*|\\d{4}-\\d{2}(-\\d{2})?");
            if (version || whole.isEmpty() || whole.equals("xsd") || whole.equals("wsdl") || whole.startsWith("xml")) {
                continue;
            }
            if (initials.length() > 1) {
                return initials.substring(0, Math.min(4, initials.length()));
            }
            return whole.length() <= 4 ? whole : whole.substring(0, 3);
        }
        return "ns";
    }
}

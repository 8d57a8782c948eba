package dev.mockbell.written;

import org.apache.xerces.util.XMLChar;

/** Names that XML allows. */
final class Names {
    private Names() {}

    static boolean isName(String text) {
        return XMLChar.isValidNCName(text);
    }

    /** Why a text is no name, with one that would be. */
    static String whyNot(String text, String what) {
        if (text.isBlank()) {
            return "The " + what + " has no name.";
        }
        return "“" + text + "” cannot be the name of a " + what + ". Write " + near(text) + ".";
    }

    /** The nearest name: words run together, what cannot stand left out. */
    static String near(String text) {
        StringBuilder out = new StringBuilder();
        boolean up = false;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            boolean fits = out.isEmpty() ? XMLChar.isNCNameStart(c) : XMLChar.isNCName(c);
            if (fits) {
                out.append(up ? Character.toUpperCase(c) : c);
                up = false;
            } else if (out.isEmpty() && XMLChar.isNCName(c)) {
                out.append('_').append(c);
            } else {
                up = !out.isEmpty();
            }
        }
        return out.isEmpty() ? "field" : out.toString();
    }

    /** The name of a type for a field of that name. */
    static String ofType(String field) {
        String name = near(field.strip().replaceFirst("^@", ""));
        return Character.toUpperCase(name.charAt(0)) + name.substring(1);
    }
}

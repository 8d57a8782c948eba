package dev.mockbell.expression;

/** What a value must be made into at the place where it is put (XML 1.0 §2.4, §2.7). */
public enum Escaping {
    /** The text as it is. */
    NONE,
    /** In XML text or an attribute's value. */
    MARKUP,
    /** In a CDATA section. */
    CDATA;

    /** The value as it is written there. */
    public String of(String value) {
        return switch (this) {
            case NONE -> value;
            case CDATA -> value.replace("]]>", "]]]]><![CDATA[>");
            case MARKUP -> markup(value);
        };
    }

    private static String markup(String value) {
        StringBuilder out = null;
        for (int i = 0; i < value.length(); i++) {
            char c = value.charAt(i);
            String entity = switch (c) {
                case '&' -> "&amp;";
                case '<' -> "&lt;";
                case '>' -> "&gt;";
                case '"' -> "&quot;";
                case '\r' -> "&#13;";
                default -> null;
            };
            if (entity != null && out == null) {
                out = new StringBuilder(value.substring(0, i));
            }
            if (out != null) {
                if (entity == null) {
                    out.append(c);
                } else {
                    out.append(entity);
                }
            }
        }
        return out == null ? value : out.toString();
    }
}

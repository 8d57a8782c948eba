package dev.mockbell.content;

import java.nio.charset.Charset;
import java.nio.charset.IllegalCharsetNameException;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A Content-Type (RFC 9110 §8.3).
 *
 * @param text the whole value of the field; empty when there is none
 */
public record MediaType(String text) {
    private static final Pattern PARAMETER =
            Pattern.compile(";\\s*([!#$%&'*+.^_`|~0-9A-Za-z-]+)\\s*=\\s*(?:\"((?:[^\"\\\\]|\\\\.)*)\"|([^;\\s]*))");

    /** Type and subtype in lower case, without parameters; empty when there is none. */
    public String name() {
        return text.split(";", 2)[0].strip().toLowerCase(Locale.ROOT);
    }

    /** The value of a parameter, out of its quotation marks. */
    public Optional<String> parameter(String name) {
        Matcher matcher = PARAMETER.matcher(text);
        while (matcher.find()) {
            if (matcher.group(1).equalsIgnoreCase(name)) {
                String quoted = matcher.group(2);
                return Optional.of(quoted == null ? matcher.group(3) : quoted.replaceAll("\\\\(.)", "$1"));
            }
        }
        return Optional.empty();
    }

    /** The charset that is named; empty when none is, or one that is not known here. */
    public Optional<Charset> charset() {
        return parameter("charset").flatMap(MediaType::charset);
    }

    /** The charset of a name; empty when it is not known here. */
    public static Optional<Charset> charset(String name) {
        try {
            return Charset.isSupported(name) ? Optional.of(Charset.forName(name)) : Optional.empty();
        } catch (IllegalCharsetNameException e) {
            return Optional.empty();
        }
    }
}

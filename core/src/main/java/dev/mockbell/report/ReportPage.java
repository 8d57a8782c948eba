package dev.mockbell.report;

import com.samskivert.mustache.Mustache;
import dev.mockbell.xml.Markup;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;

/** A page that needs nothing else, of a template beside this class and the look that all of them have. */
final class ReportPage {
    private ReportPage() {}

    /** @param values what the template names; texts in it are escaped */
    static String of(String template, Map<String, Object> values) {
        Map<String, Object> all = new HashMap<>(values);
        all.put("style", read("style.css"));
        return Mustache.compiler()
                .emptyStringIsFalse(true)
                .withEscaper(ReportPage::escape)
                .compile(read(template))
                .execute(all);
    }

    private static String read(String resource) {
        try (InputStream in = ReportPage.class.getResourceAsStream(resource)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    static String escape(String text) {
        return Markup.anywhere(Markup.legal(text));
    }
}

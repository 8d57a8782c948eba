package dev.mockbell.request;

import dev.mockbell.content.Content;
import dev.mockbell.expression.Braces;
import java.nio.charset.Charset;
import java.nio.charset.CharsetEncoder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.function.UnaryOperator;

/** The envelope in another encoding than UTF-8; it comes when nothing else reads the envelope any more. */
record CharsetStage(Charset charset) implements Stage {
    @Override
    public List<Braces> texts() {
        return List.of();
    }

    @Override
    public Stage with(UnaryOperator<Braces> change) {
        return this;
    }

    @Override
    public void apply(Draft draft) {
        String text = draft.body().text(StandardCharsets.UTF_8);
        String content = text.startsWith("<?xml") ? text.substring(text.indexOf("?>") + 2) : text;
        String whole =
                "<?xml version=\"1.0\" encoding=\"" + charset.name() + "\"?>" + (text == content ? "\n" : "") + content;
        draft.body(Content.of(encodable(whole).getBytes(charset)));
    }

    /** With a reference for every character that the encoding does not have (XML 1.0 §4.1). */
    private String encodable(String text) {
        CharsetEncoder encoder = charset.newEncoder();
        if (encoder.canEncode(text)) {
            return text;
        }
        StringBuilder out = new StringBuilder(text.length() + 64);
        text.codePoints().forEach(c -> {
            String one = Character.toString(c);
            out.append(
                    encoder.canEncode(one)
                            ? one
                            : "&#x" + Integer.toHexString(c).toUpperCase(Locale.ROOT) + ";");
        });
        return out.toString();
    }
}

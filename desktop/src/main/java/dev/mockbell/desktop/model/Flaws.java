package dev.mockbell.desktop.model;

import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Mistake;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.sheet.Includes;
import dev.mockbell.sheet.Sheet;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import org.w3c.dom.Document;

/**
 * What is wrong with a message as it would be sent: not well-formed, or not valid by the schema's own validator. Looked for
 * off the interface thread once typing rests; the newest text counts.
 */
public final class Flaws {
    private static final long REST = 250;
    private static final int MOST_LAID_OUT = 500_000;
    private static final Pattern PLACE = Pattern.compile(":(\\d+):(\\d+)");

    private final Tasks tasks;
    private final Expressions expressions;
    private final Supplier<Optional<MessageOutline>> outline;
    private final Supplier<Scope> scope;
    private final Supplier<Set<String>> parts;
    private final ReadOnlyObjectWrapper<List<Flaw>> found = new ReadOnlyObjectWrapper<>(List.of());
    private long turn;

    /**
     * A flaw.
     *
     * @param line from 1; 0 when it has no place
     * @param path the element; empty when it has none
     */
    public record Flaw(String text, int line, int column, String path) {}

    /** @param parts ids of what goes beside the message */
    Flaws(
            Tasks tasks,
            Expressions expressions,
            Supplier<Optional<MessageOutline>> outline,
            Supplier<Scope> scope,
            Supplier<Set<String>> parts) {
        this.parts = parts;
        this.tasks = tasks;
        this.expressions = expressions;
        this.outline = outline;
        this.scope = scope;
    }

    /** The flaws of the text that was looked at last. */
    public ReadOnlyObjectProperty<List<Flaw>> found() {
        return found.getReadOnlyProperty();
    }

    /** Looks at a text soon. */
    public void look(String text) {
        long own = ++turn;
        tasks.after(REST, this, () -> {
            Optional<MessageOutline> of = outline.get();
            if (own != turn || of.isEmpty()) {
                return;
            }
            Scope with = scope.get();
            Set<String> beside = parts.get();
            tasks.run(
                    () -> look(of.get(), text, with, beside),
                    all -> {
                        if (own == turn) {
                            found.set(all);
                        }
                    },
                    problem -> {});
        });
    }

    private List<Flaw> look(MessageOutline of, String text, Scope with, Set<String> beside) {
        if (text.isBlank()) {
            return of.root()
                    .map(r -> List.of(new Flaw(
                            "the body holds no element, " + r.name().getLocalPart() + " is expected", 0, 0, "")))
                    .orElse(List.of());
        }
        // an expression's value stands in its place, so the lines stay those of the text
        StringBuilder filling = new StringBuilder();
        try {
            for (Braces.Piece piece : Braces.parseXml(text).pieces()) {
                if (piece instanceof Braces.Piece.Literal literal) {
                    filling.append(literal.text());
                } else if (piece instanceof Braces.Piece.Expression e) {
                    try {
                        filling.append(e.escaping().of(expressions.text(e.xpath(), with)));
                    } catch (Problem problem) {
                        return List.of(at(text, Mistake.of(e, problem)));
                    }
                }
            }
        } catch (Problem problem) {
            return List.of(at(text, Mistake.of(problem)));
        }
        try {
            String filled =
                    filling.indexOf("cid:") < 0 ? filling.toString() : withParts(of, filling.toString(), beside);
            Document document = Xml.parse(filled, "message", XmlLimits.MESSAGE);
            MessageValidator validator = new MessageValidator(of.schemas());
            List<MessageValidator.Breach> breaches = Envelope.isEnvelope(filled)
                    ? validator.validate(of, SoapMessage.parse(filled.getBytes(StandardCharsets.UTF_8), "message"))
                    : validator.validate(of, document);
            Optional<Sheet> sheet = breaches.isEmpty() || filled.length() > MOST_LAID_OUT || Envelope.isEnvelope(filled)
                    ? Optional.empty()
                    : Optional.of(Sheet.openReceived(of, filled));
            return breaches.stream()
                    .map(b -> new Flaw(
                            words(sheet, b), b.place().line(), b.place().column(), b.path()))
                    .toList();
        } catch (Problem problem) {
            Matcher place = PLACE.matcher(problem.getMessage());
            return place.find()
                    ? List.of(new Flaw(
                            problem.what(), Integer.parseInt(place.group(1)), Integer.parseInt(place.group(2)), ""))
                    : List.of(new Flaw(problem.getMessage(), 0, 0, ""));
        }
    }

    /** What goes beside the message has some bytes in its place; which ones does not matter to its form. */
    private static String withParts(MessageOutline of, String filled, Set<String> beside) {
        return Includes.in(of, filled, new Includes.Parts() {
            @Override
            public Optional<String> address(String id) {
                return beside.contains(id) ? Optional.of("cid:" + id) : Optional.empty();
            }

            @Override
            public Optional<String> inline(String id) {
                return Optional.of("AAAA");
            }
        });
    }

    /** In the words of the sheet where it sees the flaw too. */
    private static String words(Optional<Sheet> sheet, MessageValidator.Breach breach) {
        return sheet.flatMap(s -> s.at(breach.path()))
                .filter(r -> r.tally().problems() > 0)
                .map(r -> r.tally().first())
                .orElse(breach.text());
    }

    private static Flaw at(String text, Mistake mistake) {
        int offset = mistake.offset();
        int line = 1
                + (int) text.substring(0, offset).chars().filter(c -> c == '\n').count();
        return new Flaw(mistake.problem().what(), line, offset - text.lastIndexOf('\n', offset - 1), "");
    }
}

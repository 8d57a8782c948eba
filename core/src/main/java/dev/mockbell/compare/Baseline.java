package dev.mockbell.compare;

import dev.mockbell.message.MessagePath;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/**
 * An answer that is known to be right, which later ones are held against.
 *
 * @param taken when it came
 * @param leftOut XPaths to what is not compared
 * @param xml its payload, without the values of secrets
 */
public record Baseline(Instant taken, List<String> leftOut, String xml) {
    private static final int MOST_KEPT = 32 << 20;

    public Baseline {
        leftOut = List.copyOf(leftOut);
    }

    /**
     * Makes one of an answer's payload. Secrets are masked, and where one stood there is nothing to compare with.
     *
     * @param leftOut what is left out besides
     * @throws Problem when it is too large to be kept
     */
    public static Baseline of(Document payload, Instant taken, List<String> leftOut, Redactor redactor) {
        String text = redactor.text(XmlText.exact(payload));
        if (text.length() > MOST_KEPT) {
            throw Problem.input(
                    "The answer has " + text.length() + " characters, too many for a baseline",
                    null,
                    "Compare it with an exchange of the ledger.");
        }
        List<String> all = new ArrayList<>(leftOut);
        masked(Xml.parse(text, "answer", XmlLimits.MESSAGE).getDocumentElement(), all);
        return new Baseline(taken, all, text);
    }

    private static void masked(Element element, List<String> into) {
        List<Element> children = Xml.children(element);
        for (Element child : children) {
            masked(child, into);
        }
        if (children.isEmpty() && element.getTextContent().contains(Redactor.MASK)) {
            String path = MessagePath.of(element).replaceAll("\\[\\d+]", "");
            if (!into.contains(path)) {
                into.add(path);
            }
        }
    }

    /** With other parts left out. */
    public Baseline leaving(List<String> other) {
        return new Baseline(taken, other, xml);
    }
}

package dev.mockbell.check;

import dev.mockbell.content.MediaType;
import dev.mockbell.content.Part;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Message;
import dev.mockbell.soap.EnvelopeShape;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.soap.Xop;
import dev.mockbell.validation.MessageValidator.Breach;
import dev.mockbell.xml.TextEncoding;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * What is wrong with an answer that came. One that is an envelope counts as an answer all the same, as a client that is not
 * strict would have it; checks and the user decide otherwise. Of one that is none, how it came is told: it is often why.
 *
 * @param breaches of the contract, each as one would say it; empty also when nothing says what is due
 * @param others against SOAP and HTTP, sentences without a full stop
 * @param judged whether the contract says what is due, so that no breaches mean that it is valid
 */
public record Remarks(List<Breach> breaches, List<String> others, boolean judged) {
    private static final int START = 8_192;

    /** For what did not come as a whole. */
    public static final Remarks NONE = new Remarks(List.of(), List.of(), false);

    /** Looks at an answer. Costs what validating it does. */
    public static Remarks of(Answer answer) {
        Optional<Message> came = answer.exchange().response().filter(r -> answer.whole());
        if (came.isEmpty()) {
            return NONE;
        }
        if (answer.soap().isEmpty()) {
            return new Remarks(List.of(), came.get().flaws(), false);
        }
        SoapMessage soap = answer.soap().get();
        Message response = came.get();
        List<String> others = new ArrayList<>();
        Part root = response.root();
        String type = root.header("Content-Type").orElse("");
        byte[] start = root.content().start(START);
        TextEncoding encoding = TextEncoding.of(start, type);
        encoding.doubt().ifPresent(others::add);
        if (encoding.isDeclaredLate(start)) {
            others.add(
                    "White space stands before the XML declaration, which XML 1.0 §2.8 does not allow; it is passed over");
        }
        encoding.version(start)
                .filter(v -> !v.equals("1.0"))
                .ifPresent(v -> others.add("The message is declared as XML " + v
                        + "; SOAP is written in XML 1.0, and many clients refuse others"));
        version(answer.exchange(), soap).ifPresent(others::add);
        typed(response, soap).ifPresent(others::add);
        others.addAll(response.flaws());
        lost(answer, response).ifPresent(others::add);
        others.addAll(EnvelopeShape.flaws(soap, answer.content()));
        if (soap.fault().isPresent() && response.status() / 100 == 2) {
            others.add("A fault came with status " + response.status() + "; "
                    + (soap.version() == SoapVersion.V11 ? "SOAP 1.1 §6.2" : "SOAP 1.2 part 2 §7.5.2")
                    + " wants 400 or 500");
        }
        boolean due = answer.outline().isPresent() && soap.hasBody();
        List<Breach> breaches = due ? answer.breaches() : List.of();
        return new Remarks(List.copyOf(breaches), List.copyOf(others), due);
    }

    private static Optional<String> lost(Answer answer, Message response) {
        List<String> lost =
                answer.content().map(c -> Xop.lost(c, response.attachments())).orElseGet(List::of);
        return lost.stream()
                .findFirst()
                .map(first -> "The message leaves a value to " + first + ", which is no part beside it"
                        + (lost.size() > 1 ? ", and " + (lost.size() - 1) + " more" : ""));
    }

    /** SOAP 1.2 part 1, appendix A: whoever does not speak a version says so in one that it does, by a fault. */
    private static Optional<String> version(Exchange exchange, SoapMessage answer) {
        Optional<SoapVersion> asked = spoken(exchange.request());
        boolean mismatch =
                answer.fault().filter(f -> f.code().endsWith("VersionMismatch")).isPresent();
        return asked.filter(v -> v != answer.version() && !mismatch)
                .map(v -> "The answer is " + answer.version().title() + ", the request was " + v.title());
    }

    private static Optional<SoapVersion> spoken(Message request) {
        String own = request.type().name();
        String type = own.startsWith("multipart/")
                ? new MediaType(request.root().header("Content-Type").orElse(""))
                        .parameter("type")
                        .orElse("")
                : own;
        for (SoapVersion version : SoapVersion.values()) {
            if (version.mediaType().equalsIgnoreCase(type)) {
                return Optional.of(version);
            }
        }
        return Optional.empty();
    }

    private static Optional<String> typed(Message response, SoapMessage answer) {
        String own = response.type().name();
        String wanted = answer.version().mediaType();
        if (own.startsWith("multipart/") && !own.equals("multipart/related")) {
            return Optional.of(
                    "The Content-Type is " + own + "; SOAP with attachments and MTOM want multipart/related");
        }
        if (own.equals(wanted) || own.startsWith("multipart/")) {
            return Optional.empty();
        }
        return Optional.of("The Content-Type is " + (own.isEmpty() ? "missing" : own) + "; "
                + answer.version().title() + " wants " + wanted);
    }

    /** All in sentences without a full stop, the contract's first. */
    public List<String> words() {
        List<String> words = new ArrayList<>();
        if (!breaches.isEmpty()) {
            Breach first = breaches.get(0);
            String where = first.path().isEmpty() ? "" : " (" + first.path() + ")";
            String more = breaches.size() > 1 ? " and " + (breaches.size() - 1) + " more" : "";
            words.add("Not valid against the contract: " + first.text().replaceFirst("\\.$", "") + where + more);
        }
        words.addAll(others);
        return words;
    }

    /** Whether there is nothing to remark. */
    public boolean isEmpty() {
        return breaches.isEmpty() && others.isEmpty();
    }
}

package dev.mockbell.mock;

import dev.mockbell.contract.Contract;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Message;
import dev.mockbell.expression.Braces;
import dev.mockbell.message.MessagePath;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlText;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.w3c.dom.Attr;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/**
 * Makes answers of what was asked and answered before. Requests are told apart by the fields that differ, as few as do it; requests
 * that are alike and were answered otherwise are told apart by their order.
 */
public final class Learning {
    /** More fields of a request are not looked at. */
    private static final int MOST_FIELDS = 2_000;

    private Learning() {}

    /**
     * What was learnt.
     *
     * @param answers by operation, in the order in which they are tried
     * @param leftOut why an exchange taught nothing, a sentence each
     */
    public record Learnt(Map<String, List<MockAnswer>> answers, List<String> leftOut) {}

    /** A request by its fields, and what it was answered. */
    private record Pair(Map<String, String> fields, MockAnswer answer) {}

    /**
     * Learns from exchanges; work.
     *
     * @param exchanges in the order in which they happened
     * @param inTime whether an answer waits as long as it took
     */
    public static Learnt from(Contract contract, List<Exchange> exchanges, boolean inTime) {
        Map<String, List<Pair>> byOperation = new LinkedHashMap<>();
        List<String> leftOut = new ArrayList<>();
        for (Exchange exchange : exchanges) {
            if (!contract.sentOperations().containsKey(exchange.operation())) {
                leftOut.add("An exchange of " + (exchange.operation().isEmpty() ? "no operation" : exchange.operation())
                        + " belongs to no operation of " + contract.title() + ".");
                continue;
            }
            try {
                Pair pair = new Pair(fields(exchange.request()), answer(exchange, inTime));
                byOperation
                        .computeIfAbsent(exchange.operation(), o -> new ArrayList<>())
                        .add(pair);
            } catch (Problem problem) {
                leftOut.add(exchange.operation() + ": " + problem.getMessage());
            }
        }
        Map<String, List<MockAnswer>> answers = new LinkedHashMap<>();
        byOperation.forEach((operation, pairs) -> answers.put(operation, answers(pairs)));
        return new Learnt(answers, leftOut);
    }

    /** A condition for requests like one that was not answered: by what an expression looked at, or else by its first field. */
    public static String condition(MockEvent.Kept request, Optional<String> nearest) {
        Map<String, String> fields = fields(SoapMessage.parse(request.body().bytes(), "request"));
        List<Map<String, String>> one = List.of(fields);
        List<String> looked = nearest.map(condition -> fields.keySet().stream()
                        .filter(path -> condition.contains(leaf(path)))
                        .toList())
                .orElse(List.of());
        List<String> paths =
                looked.isEmpty() ? fields.keySet().stream().limit(1).toList() : looked;
        return condition(paths, fields, one);
    }

    /**
     * Answers that were learnt from one request alone, for requests like that one, so that others are left to other answers.
     *
     * @param exchange the one
     * @param others whether there are other answers
     */
    public static List<MockAnswer> conditioned(List<MockAnswer> learnt, Optional<Exchange> exchange, boolean others) {
        boolean all = learnt.stream().anyMatch(a -> a.when().isBlank());
        if (!others || !all || exchange.isEmpty()) {
            return learnt;
        }
        Map<String, String> fields = fields(exchange.get().request());
        String when = condition(List.copyOf(fields.keySet()), fields, List.of(fields));
        return learnt.stream().map(a -> a.withWhen(when)).toList();
    }

    private static String leaf(String path) {
        return path.substring(path.lastIndexOf('/') + 1).replaceAll("\\[\\d+\\]$", "");
    }

    private static List<MockAnswer> answers(List<Pair> pairs) {
        // alike requests one behind the other, in the order in which the first of each came
        Map<Map<String, String>, List<Pair>> alike = new LinkedHashMap<>();
        pairs.forEach(
                p -> alike.computeIfAbsent(p.fields(), f -> new ArrayList<>()).add(p));
        List<Map<String, String>> requests = List.copyOf(alike.keySet());
        List<String> telling = telling(requests);
        List<MockAnswer> made = new ArrayList<>();
        alike.forEach((fields, group) -> {
            String when = requests.size() == 1 ? "" : condition(telling, fields, requests);
            made.addAll(inOrder(when, group));
        });
        return made;
    }

    /** Answers to requests that are alike: those that are the same, one after the other, become one. */
    private static List<MockAnswer> inOrder(String when, List<Pair> group) {
        List<MockAnswer> runs = new ArrayList<>();
        List<Long> starts = new ArrayList<>();
        for (int i = 0; i < group.size(); i++) {
            MockAnswer answer = group.get(i).answer();
            if (runs.isEmpty() || !same(runs.get(runs.size() - 1), answer)) {
                runs.add(answer);
                starts.add(i + 1L);
            }
        }
        List<MockAnswer> made = new ArrayList<>();
        for (int i = 0; i < runs.size(); i++) {
            MockAnswer answer = runs.get(i).withWhen(when);
            if (runs.size() > 1) {
                boolean last = i == runs.size() - 1;
                long to = last ? 0 : starts.get(i + 1) - 1;
                String times = starts.get(i) + (last ? "-" : to == starts.get(i) ? "" : "-" + to);
                answer = answer.with(Turns.ALWAYS.with(Times.parse(times)));
            }
            made.add(answer);
        }
        return made;
    }

    private static boolean same(MockAnswer one, MockAnswer other) {
        return one.content().equals(other.content())
                && one.trouble().equals(other.trouble())
                && one.head().equals(other.head());
    }

    /** As few paths as tell all requests apart, those that tell most first. */
    private static List<String> telling(List<Map<String, String>> requests) {
        Set<String> all = new LinkedHashSet<>();
        requests.forEach(r -> all.addAll(r.keySet()));
        all.removeIf(path -> requests.stream().map(r -> r.get(path)).distinct().count() < 2);
        List<String> chosen = new ArrayList<>();
        int apart = 1;
        while (apart < requests.size()) {
            String best = null;
            int most = apart;
            for (String path : all) {
                List<String> with = new ArrayList<>(chosen);
                with.add(path);
                int now = kinds(requests, with);
                if (now > most) {
                    most = now;
                    best = path;
                }
            }
            if (best == null) {
                break;
            }
            chosen.add(best);
            apart = most;
        }
        return chosen;
    }

    private static int kinds(List<Map<String, String>> requests, List<String> paths) {
        Set<List<String>> seen = new HashSet<>();
        for (Map<String, String> request : requests) {
            seen.add(paths.stream().map(p -> String.valueOf(request.get(p))).toList());
        }
        return seen.size();
    }

    private static String condition(
            List<String> paths, Map<String, String> fields, List<Map<String, String>> requests) {
        return paths.stream()
                .map(path -> {
                    String written = "$request" + shortest(path, requests);
                    String value = fields.get(path);
                    return value == null ? "empty(" + written + ")" : written + " = '" + value.replace("'", "''") + "'";
                })
                .collect(Collectors.joining(" and "));
    }

    /** By the name alone, where no other field of any request has it. */
    private static String shortest(String path, List<Map<String, String>> requests) {
        String leaf = path.substring(path.lastIndexOf('/') + 1);
        boolean alone = requests.stream()
                        .flatMap(r -> r.keySet().stream())
                        .filter(p -> leaf(p).equals(leaf(path)))
                        .distinct()
                        .count()
                == 1;
        return alone ? "//" + leaf(path) : path;
    }

    private static Map<String, String> fields(Message request) {
        return fields(SoapMessage.of(request, "request"));
    }

    /** The values of a request by their paths. */
    private static Map<String, String> fields(SoapMessage message) {
        Map<String, String> fields = new LinkedHashMap<>();
        Document payload =
                message.payloadDocument().orElseThrow(() -> Problem.input("the request has an empty body", null, null));
        Map<String, String> sorted = new TreeMap<>();
        MessagePath.all(payload.getDocumentElement()).forEach((node, path) -> {
            if (node instanceof Attr attr
                    && !attr.getName().startsWith("xmlns")
                    && !attr.getName().startsWith("xsi:")) {
                sorted.put(path, attr.getValue());
            } else if (node instanceof Element element && Xml.children(element).isEmpty()) {
                sorted.put(path, element.getTextContent());
            }
        });
        sorted.entrySet().stream().limit(MOST_FIELDS).forEach(e -> fields.put(e.getKey(), e.getValue()));
        return fields;
    }

    private static MockAnswer answer(Exchange exchange, boolean inTime) {
        Pause pause = inTime ? new Pause.Fixed(exchange.timing().totalMillis()) : Pause.NONE;
        if (exchange.response().isEmpty()) {
            return new MockAnswer("", "no answer", new AnswerContent.Nothing())
                    .with(Trouble.of(Trouble.Kind.CLOSED))
                    .with(pause);
        }
        Message response = exchange.response().get();
        if (response.root().content().isEmpty()) {
            return new MockAnswer("", "empty", new AnswerContent.Nothing())
                    .with(AnswerHead.USUAL.withStatus(response.status()))
                    .with(pause);
        }
        if (!response.attachments().isEmpty()) {
            throw Problem.input("the answer has parts beside the envelope, which are not learnt", null, null);
        }
        SoapMessage message = SoapMessage.of(response, "answer");
        String blocks = message.headers().stream()
                .map(XmlText::exact)
                .map(Braces::literally)
                .collect(Collectors.joining("\n"));
        AnswerHead head = AnswerHead.USUAL.withBlocks(blocks);
        Optional<SoapFault> fault = message.fault();
        if (fault.isPresent()) {
            String local = fault.get().code().replaceFirst("^.*:", "");
            boolean sender = local.startsWith("Client") || local.startsWith("Sender");
            String detail = message.payload().stream()
                    .flatMap(f -> Xml.children(f).stream())
                    .filter(e -> "detail".equalsIgnoreCase(e.getLocalName()))
                    .flatMap(d -> Xml.children(d).stream())
                    .map(XmlText::laidOut)
                    .map(Braces::literally)
                    .collect(Collectors.joining("\n"));
            AnswerContent content = new AnswerContent.Fault(
                    sender ? SoapFault.Code.SENDER : SoapFault.Code.RECEIVER,
                    Braces.literally(fault.get().reason()),
                    detail);
            return new MockAnswer("", fault.get().title(), content).with(head).with(pause);
        }
        String body = message.payloadDocument()
                .map(d -> XmlText.laidOut(d.getDocumentElement()))
                .map(Braces::literally)
                .orElse("");
        return MockAnswer.otherwise("recorded", body).with(head).with(pause);
    }
}

package dev.mockbell.mock;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.Protocol;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sheet.Sheet;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What a browser's form says of a request: it carries the XML along, and each post changes that by the fields and by the one button
 * that was pressed. The rows are numbered as the XML that they were made of has them.
 */
final class TryForm {
    private static final int MOST_ROWS = 1_000;
    private static final int INDENT = 16;

    private final Port port;
    private final String path;
    private final Operation operation;
    private final MessageOutline outline;
    private String xml;
    private String flaw = "";
    private boolean byXml;
    private Map<String, Object> answered = Map.of();

    private TryForm(Contract contract, Port port, String path, Operation operation) {
        this.port = port;
        this.path = path;
        this.operation = operation;
        this.outline = operation
                .input()
                .map(i -> MessageOutline.of(contract, i))
                .orElseGet(() -> MessageOutline.empty(contract));
        this.xml = SampleBuilder.text(outline, Detail.FULL);
    }

    /** The form with the sample of a request; empty when there is no such operation at that path. */
    static Optional<TryForm> of(Contract contract, Map<String, String> paths, String path, String key) {
        for (Port port : contract.httpPorts()) {
            Optional<Operation> operation = port.binding().operation(key).filter(Operation::callable);
            if (path.equals(paths.get(port.name())) && operation.isPresent()) {
                return Optional.of(new TryForm(contract, port, path, operation.get()));
            }
        }
        return Optional.empty();
    }

    /**
     * Takes over what a post says.
     *
     * @return whether the request is to be sent
     */
    boolean posted(Map<String, String> fields) {
        String does = fields.getOrDefault("do", "send");
        byXml = fields.keySet().stream().noneMatch(name -> name.startsWith("v")) && fields.containsKey("xml");
        xml = fields.getOrDefault("xml", xml);
        try {
            Sheet sheet = Sheet.openReceived(outline, xml);
            List<SheetRow> rows = rows(sheet);
            for (int i = 0; i < rows.size(); i++) {
                String typed = fields.get("v" + i);
                SheetRow row = rows.get(i);
                if (typed != null && row.kind() == SheetRow.Kind.CHOICE) {
                    choose(sheet, row, typed);
                } else if (typed != null && row.editable() && !typed.equals(row.value())) {
                    sheet.setValue(row, typed);
                }
            }
            int colon = does.indexOf(':');
            if (colon > 0) {
                act(sheet, does.substring(0, colon), rows, does.substring(colon + 1));
            }
            xml = sheet.text();
            return does.equals("send");
        } catch (Problem problem) {
            flaw = problem.getMessage();
            // what a client types into the XML is sent as it is typed
            return byXml && does.equals("send");
        }
    }

    private static void choose(Sheet sheet, SheetRow row, String option) {
        String now = row.children().isEmpty() ? "" : row.children().get(0).label();
        if (row.options().contains(option) && !option.equals(now)) {
            sheet.choose(row, option);
        }
    }

    private static void act(Sheet sheet, String action, List<SheetRow> rows, String number) {
        int index = number.matches("[0-9]{1,6}") ? Integer.parseInt(number) : -1;
        if (index < 0 || index >= rows.size()) {
            return;
        }
        SheetRow row = sheet.standing(rows.get(index)).orElse(rows.get(index));
        switch (action) {
            case "in" -> sheet.include(row);
            case "out" -> sheet.leaveOut(row);
            case "more" -> sheet.addRepeat(row);
            case "less" -> sheet.remove(row);
            default -> {
                // not from one of these pages
            }
        }
    }

    private static List<SheetRow> rows(Sheet sheet) {
        List<SheetRow> all = new ArrayList<>();
        sheet.root().ifPresent(root -> below(root, all));
        return all;
    }

    private static void below(SheetRow row, List<SheetRow> all) {
        all.add(row);
        if (all.size() < MOST_ROWS) {
            row.children().forEach(child -> below(child, all));
        }
    }

    SoapVersion version() {
        return port.binding().protocol() == Protocol.SOAP12 ? SoapVersion.V12 : SoapVersion.V11;
    }

    /**
     * The request as a client would send it.
     *
     * @param login what the browser logs in with; empty for none
     */
    MockRequest request(String remote, String login) {
        SoapVersion version = version();
        String action = operation.soapAction().orElse("");
        byte[] body = Envelope.around(version, xml, List.of()).getBytes(StandardCharsets.UTF_8);
        Map<String, String> fields = new HashMap<>();
        fields.put("content-type", version.contentType(action));
        fields.put("soapaction", "\"" + action + "\"");
        fields.put("method", "POST");
        fields.put("path", path);
        fields.put("query", "");
        if (!login.isEmpty()) {
            fields.put("authorization", login);
        }
        return new MockRequest(
                path, RequestType.of(version.contentType(action)), action, body, body, () -> fields, () -> remote);
    }

    /** Shows what was answered. */
    void answered(MockRequest request, Responder.Reply reply) {
        List<String> notes = new ArrayList<>();
        if (reply.delayMillis() > 0) {
            notes.add("A client would have waited " + reply.delayMillis() + " ms.");
        }
        if (!reply.trouble().isNone()) {
            notes.add("A client would have got it with this made wrong: "
                    + reply.trouble().kind().title() + ".");
        }
        if (!reply.event().why().isEmpty()) {
            notes.add(reply.event().why());
        }
        answered = Map.of(
                "status",
                reply.status(),
                "look",
                reply.status() < 300 ? "good" : "bad",
                "by",
                reply.event().matched() ? "answer: " + reply.event().title() : "nothing matched",
                "note",
                String.join(" ", notes),
                "sent",
                new String(request.body(), StandardCharsets.UTF_8),
                "received",
                new String(reply.body(), StandardCharsets.UTF_8));
    }

    /** What the page is filled with. */
    Map<String, Object> values() {
        Map<String, Object> values = new LinkedHashMap<>();
        values.put("operation", operation.key());
        values.put("link", Pages.link(operation.key()));
        values.put("path", path);
        values.put("port", port.name());
        values.put("binding", port.binding().title());
        values.put("documentation", operation.documentation());
        values.put("answered", answered.isEmpty() ? List.of() : List.of(answered));
        values.put("xml", xml);
        values.put("open", byXml);
        List<Map<String, Object>> shown = new ArrayList<>();
        String cut = "";
        try {
            Sheet sheet = Sheet.openReceived(outline, xml);
            List<SheetRow> rows = rows(sheet);
            Map<SheetRow, Integer> depths = new HashMap<>();
            sheet.root().ifPresent(root -> depths(root, 0, depths));
            for (int i = 0; i < rows.size(); i++) {
                shown.add(row(rows.get(i), i, depths.getOrDefault(rows.get(i), 0)));
            }
            if (rows.size() >= MOST_ROWS) {
                cut = "Only the first " + MOST_ROWS + " fields are shown; all of them are in the XML.";
            }
        } catch (Problem problem) {
            flaw = problem.getMessage();
            values.put("open", true);
        }
        values.put("rows", shown);
        values.put("cut", cut);
        values.put("flaw", flaw);
        return values;
    }

    private static void depths(SheetRow row, int depth, Map<SheetRow, Integer> depths) {
        depths.put(row, depth);
        row.children().forEach(child -> depths(child, depth + 1, depths));
    }

    private static Map<String, Object> row(SheetRow row, int number, int depth) {
        boolean out = row.state() == SheetRow.State.LEFT_OUT;
        boolean branch = row.kind() == SheetRow.Kind.CHOICE && !out;
        boolean choices = row.kind() != SheetRow.Kind.CHOICE && !row.options().isEmpty();
        String now = branch && !row.children().isEmpty() ? row.children().get(0).label() : row.value();
        List<Map<String, Object>> options = new ArrayList<>();
        if (choices && !row.options().contains(row.value())) {
            options.add(Map.of("value", row.value(), "chosen", true));
        }
        row.options().forEach(o -> options.add(Map.of("value", o, "chosen", o.equals(now))));
        List<Map<String, Object>> acts = new ArrayList<>();
        if (out) {
            acts.add(act("in:" + number, "Put in"));
        } else {
            if (row.canRepeat()) {
                acts.add(act("more:" + number, "One more"));
            }
            if (row.optional() && depth > 0) {
                acts.add(act("out:" + number, "Leave out"));
            } else if (row.count() > 1 && row.removable()) {
                acts.add(act("less:" + number, "Remove"));
            }
        }
        Map<String, Object> made = new LinkedHashMap<>();
        made.put("indent", depth * INDENT);
        made.put("label", row.label() + (row.index() > 0 && row.count() > 1 ? " " + row.index() : ""));
        made.put("type", row.type());
        made.put("out", out);
        made.put("name", "v" + number);
        made.put("field", !out && row.editable());
        made.put("choices", choices);
        made.put("branch", branch && row.options().size() > 1);
        made.put("options", options);
        made.put("value", row.value());
        made.put("problem", row.problem().orElse(""));
        made.put("acts", acts);
        return made;
    }

    private static Map<String, Object> act(String does, String words) {
        return Map.of("does", does, "words", words);
    }
}

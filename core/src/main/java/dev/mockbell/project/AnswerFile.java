package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.choice.Choice;
import dev.mockbell.content.Header;
import dev.mockbell.mock.AnswerContent;
import dev.mockbell.mock.AnswerHead;
import dev.mockbell.mock.AnswerHead.AnswerPart;
import dev.mockbell.mock.MemoryStep;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.Pause;
import dev.mockbell.mock.Times;
import dev.mockbell.mock.Trouble;
import dev.mockbell.mock.Turns;
import dev.mockbell.mock.ValueChange;
import dev.mockbell.soap.SoapFault;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;

/**
 * The form of a mock's answers in its file, beside the XML, which has files of its own. What is as usual is left out.
 *
 * @param node is written to
 */
record AnswerFile(ObjectNode node) implements AnswerContent.Visitor<ObjectNode> {
    private static final String SENDER = "sender";

    /** The answer in a tree that the schema has found good. */
    static MockAnswer read(JsonNode answer, String xml) {
        return new MockAnswer(
                answer.path("when").asText(""),
                turns(answer),
                answer.path("title").asText(""),
                content(answer, xml),
                head(answer),
                pause(answer),
                trouble(answer.path("trouble")),
                each(answer.path("after"), AnswerFile::step));
    }

    private static <T> List<T> each(JsonNode list, Function<JsonNode, T> one) {
        List<T> all = new ArrayList<>();
        list.forEach(node -> all.add(one.apply(node)));
        return all;
    }

    private static AnswerContent content(JsonNode answer, String xml) {
        if (answer.has("passOn")) {
            return new AnswerContent.PassOn(
                    answer.path("passOn").asText(""),
                    answer.path("elseNext").asBoolean(false),
                    each(answer.path("changeRequest"), AnswerFile::change),
                    each(answer.path("changeAnswer"), AnswerFile::change));
        }
        if (answer.has("file")) {
            return new AnswerContent.FileBody(
                    answer.path("file").asText(""), answer.path("type").asText(""));
        }
        if (answer.path("requestBack").asBoolean(false)) {
            return new AnswerContent.RequestBack();
        }
        if (answer.path("empty").asBoolean(false)) {
            return new AnswerContent.Nothing();
        }
        if (answer.path("fault").asBoolean(false)) {
            boolean sender = SENDER.equals(answer.path("code").asText(""));
            return new AnswerContent.Fault(
                    sender ? SoapFault.Code.SENDER : SoapFault.Code.RECEIVER,
                    answer.path("reason").asText(""),
                    xml);
        }
        return new AnswerContent.Message(xml);
    }

    private static ValueChange change(JsonNode node) {
        return new ValueChange(node.path("path").asText(""), node.path("value").asText(""));
    }

    private static Turns turns(JsonNode answer) {
        return new Turns(
                Times.parse(answer.path("times").asText("")),
                Choice.of(Turns.Chosen.class, answer.path("choose").asText(""), Turns.Chosen.FIRST),
                answer.path("weight").asInt(1),
                answer.path("caller").asText(""),
                answer.path("eachCaller").asBoolean(false));
    }

    private static AnswerHead head(JsonNode answer) {
        return new AnswerHead(
                answer.path("status").asInt(0),
                each(
                        answer.path("headers"),
                        h -> new Header(
                                h.path("name").asText(""), h.path("value").asText(""))),
                answer.path("blocks").asText(""),
                each(
                        answer.path("parts"),
                        p -> new AnswerPart(
                                p.path("id").asText(""),
                                p.path("file").asText(""),
                                p.path("type").asText(""))));
    }

    private static Pause pause(JsonNode answer) {
        JsonNode delay = answer.path("delay");
        if (delay.has("highMillis")) {
            return new Pause.Between(
                    delay.path("lowMillis").asLong(0), delay.path("highMillis").asLong(0));
        }
        if (delay.has("deviationMillis")) {
            return new Pause.Normal(
                    delay.path("meanMillis").asLong(0),
                    delay.path("deviationMillis").asLong(0));
        }
        if (delay.has("meanMillis")) {
            return new Pause.Exponential(delay.path("meanMillis").asLong(0));
        }
        return new Pause.Fixed(answer.path("delayMillis").asLong(0));
    }

    private static Trouble trouble(JsonNode node) {
        Trouble.Kind kind = Choice.of(Trouble.Kind.class, node.path("kind").asText(""), Trouble.Kind.NONE);
        return new Trouble(kind, node.path("amount").asInt(kind.usual()));
    }

    private static MemoryStep step(JsonNode node) {
        String key = node.path("key").asText("");
        return node.has("forget")
                ? new MemoryStep.Forget(node.path("forget").asText(), key)
                : new MemoryStep.Remember(
                        node.path("remember").asText(""),
                        key,
                        node.path("value").asText(""));
    }

    void write(MockAnswer answer) {
        node.put("title", answer.title());
        text("when", answer.when());
        Turns turns = answer.turns();
        text("times", turns.calls().toString());
        if (turns.choice() != Turns.Chosen.FIRST) {
            node.put("choose", turns.choice().code());
        }
        if (turns.weight() != 1) {
            node.put("weight", turns.weight());
        }
        text("caller", turns.caller());
        flag("eachCaller", turns.eachCaller());
        answer.content().accept(this);
        AnswerHead head = answer.head();
        if (head.status() != 0) {
            node.put("status", head.status());
        }
        each(
                "headers",
                head.fields(),
                (field, one) -> one.put("name", field.name()).put("value", field.value()));
        text("blocks", head.blocks());
        each("parts", head.parts(), (part, one) -> {
            one.put("id", part.id()).put("file", part.file());
            if (!part.type().isBlank()) {
                one.put("type", part.type());
            }
        });
        answer.pause().accept(new PauseForm());
        if (!answer.trouble().isNone()) {
            ObjectNode trouble = node.putObject("trouble");
            trouble.put("kind", answer.trouble().kind().code());
            if (answer.trouble().amount() > 0) {
                trouble.put("amount", answer.trouble().amount());
            }
        }
        each("after", answer.after(), (step, one) -> step.accept(new StepForm(one)));
    }

    private void text(String key, String value) {
        if (!value.isBlank()) {
            node.put(key, value);
        }
    }

    private void flag(String key, boolean value) {
        if (value) {
            node.put(key, true);
        }
    }

    private interface Form<T> {
        void write(T value, ObjectNode one);
    }

    private <T> void each(String key, List<T> values, Form<T> form) {
        if (!values.isEmpty()) {
            ArrayNode list = node.putArray(key);
            values.forEach(value -> form.write(value, list.addObject()));
        }
    }

    private final class PauseForm implements Pause.Visitor<ObjectNode> {
        @Override
        public ObjectNode fixed(Pause.Fixed pause) {
            return pause.millis() == 0 ? node : node.put("delayMillis", pause.millis());
        }

        @Override
        public ObjectNode between(Pause.Between pause) {
            return node.putObject("delay").put("lowMillis", pause.low()).put("highMillis", pause.high());
        }

        @Override
        public ObjectNode normal(Pause.Normal pause) {
            return node.putObject("delay").put("meanMillis", pause.mean()).put("deviationMillis", pause.deviation());
        }

        @Override
        public ObjectNode exponential(Pause.Exponential pause) {
            return node.putObject("delay").put("meanMillis", pause.mean());
        }
    }

    private record StepForm(ObjectNode one) implements MemoryStep.Visitor<ObjectNode> {
        @Override
        public ObjectNode remember(MemoryStep.Remember step) {
            one.put("remember", step.name());
            return key(step).put("value", step.value());
        }

        @Override
        public ObjectNode forget(MemoryStep.Forget step) {
            one.put("forget", step.name());
            return key(step);
        }

        private ObjectNode key(MemoryStep step) {
            return step.key().isBlank() ? one : one.put("key", step.key());
        }
    }

    @Override
    public ObjectNode message(AnswerContent.Message content) {
        return node;
    }

    @Override
    public ObjectNode fault(AnswerContent.Fault content) {
        node.put("fault", true);
        if (content.code() == SoapFault.Code.SENDER) {
            node.put("code", SENDER);
        }
        return node.put("reason", content.reason());
    }

    @Override
    public ObjectNode requestBack(AnswerContent.RequestBack content) {
        return node.put("requestBack", true);
    }

    @Override
    public ObjectNode file(AnswerContent.FileBody content) {
        node.put("file", content.file());
        text("type", content.type());
        return node;
    }

    @Override
    public ObjectNode nothing(AnswerContent.Nothing content) {
        return node.put("empty", true);
    }

    @Override
    public ObjectNode passOn(AnswerContent.PassOn content) {
        node.put("passOn", content.endpoint());
        flag("elseNext", content.elseNext());
        each("changeRequest", content.asked(), AnswerFile::changed);
        each("changeAnswer", content.answered(), AnswerFile::changed);
        return node;
    }

    private static void changed(ValueChange change, ObjectNode one) {
        one.put("path", change.path()).put("value", change.value());
    }
}

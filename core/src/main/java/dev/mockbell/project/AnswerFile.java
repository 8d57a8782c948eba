package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.mock.AnswerContent;
import dev.mockbell.mock.MockAnswer;

/**
 * The form of a mock's answers in its file, beside the XML, which has files of its own.
 *
 * @param node is written to
 */
record AnswerFile(ObjectNode node) implements AnswerContent.Visitor<ObjectNode> {
    /** The answer in a tree that the schema has found good. */
    static MockAnswer read(JsonNode answer, String xml) {
        AnswerContent content = answer.path("fault").asBoolean(false)
                ? new AnswerContent.Fault(answer.path("reason").asText(""), xml)
                : new AnswerContent.Message(xml);
        return new MockAnswer(
                answer.path("when").asText(""),
                answer.path("title").asText(""),
                content,
                answer.path("delayMillis").asLong(0));
    }

    void write(MockAnswer answer) {
        node.put("title", answer.title());
        if (answer.conditional()) {
            node.put("when", answer.when());
        }
        answer.content().accept(this);
        if (answer.delayMillis() > 0) {
            node.put("delayMillis", answer.delayMillis());
        }
    }

    @Override
    public ObjectNode message(AnswerContent.Message content) {
        return node;
    }

    @Override
    public ObjectNode fault(AnswerContent.Fault content) {
        return node.put("fault", true).put("reason", content.reason());
    }
}

package dev.mockbell.mock;

import dev.mockbell.content.Content;
import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Expressions.Effort;
import dev.mockbell.expression.Template;
import dev.mockbell.problem.Problem;
import dev.mockbell.request.Attachment;
import dev.mockbell.request.Packaging;
import dev.mockbell.soap.SoapVersion;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import java.util.stream.Stream;

/** The body of an answer with all done that does not depend on the request. Safe for many threads. */
final class PreparedBody {
    private static final byte[] NONE = {};

    private final Map<SoapVersion, byte[]> bytes = new EnumMap<>(SoapVersion.class);
    private final Map<SoapVersion, Template> templates = new EnumMap<>(SoapVersion.class);
    private final Map<SoapVersion, String> types = new EnumMap<>(SoapVersion.class);
    private final List<Attachment> parts;
    private final boolean back;
    private final boolean onward;
    private final boolean fault;
    private List<Change> asked = List.of();
    private List<Change> answered = List.of();

    /** @throws Problem when it cannot be prepared as it was written */
    PreparedBody(MockAnswer answer, Ground ground) {
        this.parts = answer.head().parts().stream()
                .map(p -> Attachment.of(p.id(), ground.files().file(p.file())).typed(p.type()))
                .toList();
        Making making = new Making(answer, ground);
        answer.content().accept(making);
        this.back = answer.content() instanceof AnswerContent.RequestBack;
        this.onward = answer.content() instanceof AnswerContent.PassOn;
        this.fault = making.fault;
        for (SoapVersion version : SoapVersion.values()) {
            types.putIfAbsent(version, version.contentType(""));
        }
    }

    /** Each kind of content as it is prepared. */
    private final class Making implements AnswerContent.Visitor<Void> {
        private final Ground ground;
        private final List<String> blocks;
        private boolean fault;

        Making(MockAnswer answer, Ground ground) {
            this.ground = ground;
            String own = answer.head().blocks().strip();
            boolean sampled = own.isEmpty() && !answer.content().isFault();
            this.blocks = sampled ? ground.headers() : own.isEmpty() ? List.of() : List.of(own);
        }

        private Void texts(AnswerContent content, java.util.function.Function<SoapVersion, Braces> written) {
            WholeEnvelope whole = WholeEnvelope.of(content, ground.expressions());
            fault = content.isFault() || whole.isFault();
            for (SoapVersion version : SoapVersion.values()) {
                Braces text = whole.in(version).map(Braces::parseTemplate).orElseGet(() -> written.apply(version));
                Template template = new Template(ground.expressions(), text, ground.names(), ground.scope());
                if (template.constant()) {
                    Body body = packed(version, template.filled(null, null, Effort.USUAL));
                    bytes.put(version, body.bytes());
                    types.put(version, body.type());
                } else {
                    templates.put(version, template);
                }
            }
            return null;
        }

        @Override
        public Void message(AnswerContent.Message content) {
            return texts(content, v -> new ContentText(v, blocks).message(content));
        }

        @Override
        public Void fault(AnswerContent.Fault content) {
            return texts(content, v -> new ContentText(v, blocks).fault(content));
        }

        @Override
        public Void requestBack(AnswerContent.RequestBack content) {
            return null;
        }

        @Override
        public Void file(AnswerContent.FileBody content) {
            Path path = ground.files().file(content.file());
            try {
                byte[] read = Files.readAllBytes(path);
                for (SoapVersion version : SoapVersion.values()) {
                    bytes.put(version, read);
                    if (!content.type().isBlank()) {
                        types.put(version, content.type().strip());
                    }
                }
                return null;
            } catch (IOException e) {
                throw Problem.of(
                        Problem.Kind.INPUT,
                        content.file() + " cannot be read: " + Problem.reason(e),
                        path.toString(),
                        "Check the file.",
                        e);
            }
        }

        @Override
        public Void nothing(AnswerContent.Nothing content) {
            for (SoapVersion version : SoapVersion.values()) {
                bytes.put(version, NONE);
                types.put(version, "");
            }
            return null;
        }

        @Override
        public Void passOn(AnswerContent.PassOn content) {
            asked = changes(content.asked());
            answered = changes(content.answered());
            return null;
        }

        private List<Change> changes(List<ValueChange> changes) {
            return changes.stream()
                    .map(c -> {
                        ground.expressions().compiled(c.path(), List.of(), ground.scope());
                        return new Change(c.path(), ground.text(c.value()));
                    })
                    .toList();
        }
    }

    /**
     * A value that is replaced in what is passed on.
     *
     * @param path an XPath to what holds it
     */
    record Change(String path, Template value) {}

    /** What is changed in a request that is passed on. */
    List<Change> asked() {
        return asked;
    }

    /** What is changed in the answer to it. */
    List<Change> answered() {
        return answered;
    }

    /**
     * A body with its Content-Type.
     *
     * @param type empty when there is no body
     */
    record Body(String type, byte[] bytes) {}

    private Body packed(SoapVersion version, byte[] envelope) {
        if (parts.isEmpty()) {
            return new Body(version.contentType(""), envelope);
        }
        Packaging.Packed packed = Packaging.packed(version.contentType(""), Content.of(envelope), parts, false);
        return new Body(packed.type(), packed.body().bytes());
    }

    boolean isFault() {
        return fault;
    }

    /** Whether it is the same for every request. */
    boolean isConstant() {
        return templates.isEmpty() && !back && !onward;
    }

    boolean isOnward() {
        return onward;
    }

    boolean looks(Predicate<Template> at) {
        return Stream.concat(
                        templates.values().stream(),
                        Stream.concat(asked.stream(), answered.stream()).map(Change::value))
                .anyMatch(at);
    }

    /** The bytes of one that is the same for every request. */
    Body constant(SoapVersion version) {
        return new Body(types.get(version), bytes.get(version));
    }

    Body made(SoapVersion version, RequestValues values, MockRequest request) {
        if (back) {
            String type = Stream.of(request.http().get().getOrDefault("content-type", ""))
                    .filter(t -> !t.isEmpty())
                    .findFirst()
                    .orElse(version.contentType(""));
            return new Body(type, request.raw());
        }
        Template template = templates.get(version);
        return template == null
                ? constant(version)
                : packed(version, template.filled(values.all(), values.context(), values.effort()));
    }
}

package dev.mockbell.request;

import dev.mockbell.content.MediaType;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.MessageDef;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.Transport;
import dev.mockbell.expression.Braces;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.security.KeyName;
import dev.mockbell.sheet.Includes;
import dev.mockbell.soap.Addressing;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.wire.CallRequest;
import java.net.URI;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.function.Supplier;

/** How the request of a case is made; taken apart once, made as often as it is sent. Immutable. */
public final class RequestRecipe {
    private final List<Stage> stages;
    private final Wrapping wrapping;

    /** What goes around the envelope when it is whole. */
    private record Wrapping(List<Attachment> parts, boolean always, Delivery delivery) {}

    private RequestRecipe(List<Stage> stages, Wrapping wrapping) {
        this.stages = List.copyOf(stages);
        this.wrapping = wrapping;
    }

    /**
     * Takes the texts of a request without parts and security apart.
     *
     * @param endpoint where to, perhaps with expressions; empty for the address in the contract
     * @throws Problem when a brace stands alone or there is no address
     */
    public static RequestRecipe of(BoundOperation bound, RequestText text, Optional<String> endpoint) {
        Supplier<MessageOutline> none = () -> {
            throw new IllegalStateException("there are no parts");
        };
        return of(new RequestSource(bound, none, text, endpoint, Optional.empty(), List.of(), Optional.empty()));
    }

    /**
     * Takes the texts of a request apart.
     *
     * @throws Problem when a brace stands alone or there is no address
     */
    public static RequestRecipe of(RequestSource source) {
        BoundOperation bound = source.bound();
        Delivery delivery = source.text().delivery();
        SoapVersion version = SoapVersion.of(bound);
        Set<String> within = new HashSet<>();
        RequestText text =
                source.parts().isEmpty() ? source.text() : source.text().withBody(withIncludes(source, within));
        Optional<Braces> blocks = Optional.of(text.soapHeaders().strip())
                .filter(b -> !b.isEmpty())
                .map(Braces::parseXml);
        Charset charset = charset(delivery.charset());
        List<Stage> stages = new ArrayList<>();
        stages.add(new AddressStage(address(source), source.via()));
        stages.add(new EnvelopeStage(version, Braces.parseXml(text.body()), blocks, addressing(bound, delivery)));
        source.security().filter(s -> !s.isNothing()).ifPresent(s -> stages.add(new SecurityStage(s, source.parts())));
        stages.add(new HeadStage(
                version,
                bound.operation().soapAction().orElse(""),
                charset.name().toLowerCase(Locale.ROOT),
                text.headers().stream().map(HeadStage.Field::of).toList()));
        if (!charset.equals(StandardCharsets.UTF_8)) {
            stages.add(new CharsetStage(charset));
        }
        boolean always = bound.operation().needs().contains("MTOM");
        List<Attachment> beside =
                source.parts().stream().filter(p -> !within.contains(p.id())).toList();
        return new RequestRecipe(stages, new Wrapping(beside, always, delivery));
    }

    private static Braces address(RequestSource source) {
        Port port = source.bound().port();
        Transport transport = port.binding().transport();
        if (!transport.canBeSent()) {
            throw Problem.input(
                    "Port " + port.name() + " is spoken over " + transport.name()
                            + "; requests are sent by HTTP and JMS",
                    null,
                    "Sample, check and copy its messages here, or call a port of the contract that is spoken over one of them.");
        }
        String address = source.endpoint()
                .or(port::address)
                .orElseThrow(() -> Problem.input(
                        "Port " + port.name() + " has no address",
                        null,
                        "Give the endpoint in the environment or on the command line."));
        // what the contract says is no template
        return source.endpoint().isPresent()
                ? Braces.parse(address)
                : new Braces(address, List.of(new Braces.Piece.Literal(address)));
    }

    private static Optional<AddressingText> addressing(BoundOperation bound, Delivery delivery) {
        Addressing kind = spoken(bound, delivery);
        String action = bound.operation().input().map(MessageDef::action).orElse("");
        boolean answered = bound.operation().output().isPresent();
        return kind.isSpoken()
                ? Optional.of(AddressingText.of(kind, action, delivery.replyTo(), answered))
                : Optional.empty();
    }

    /** Which WS-Addressing a request of an operation speaks. */
    public static Addressing spoken(BoundOperation bound, Delivery delivery) {
        if (delivery.addressing() != Addressing.AS_CONTRACT) {
            return delivery.addressing();
        }
        return bound.operation().needs().contains("addressing") ? Addressing.V10 : Addressing.NONE;
    }

    private static Charset charset(String name) {
        return MediaType.charset(name)
                .filter(Charset::canEncode)
                .orElseThrow(() -> Problem.input(
                        "“" + name + "” is no encoding that is known here",
                        null,
                        "Write it as in UTF-8, UTF-16 or ISO-8859-1."));
    }

    /**
     * The body with what goes beside it, or within as base64, in its place.
     *
     * @param within takes the ids of the parts that are in the envelope when it goes out
     */
    private static String withIncludes(RequestSource source, Set<String> within) {
        boolean encrypted =
                source.security().filter(s -> s.encrypted() != KeyName.NONE).isPresent();
        long inline = source.text().delivery().inlineKilobytes() * 1024L;
        return Includes.in(source.asks().get(), source.text().body(), new Includes.Parts() {
            @Override
            public Optional<String> address(String id) {
                Optional<Attachment> found = part(id);
                found.filter(p -> encrypted).ifPresent(p -> within.add(id));
                return found.map(Attachment::address);
            }

            @Override
            public Optional<String> inline(String id) {
                Optional<Attachment> small = part(id).filter(p -> p.content().size() <= inline);
                small.ifPresent(p -> within.add(id));
                return small.map(
                        p -> Base64.getEncoder().encodeToString(p.content().bytes()));
            }

            private Optional<Attachment> part(String id) {
                return source.parts().stream().filter(p -> p.id().equals(id)).findFirst();
            }
        });
    }

    /**
     * When the request can become another.
     *
     * @param captured names of the variables that steps capture
     */
    public Changes changes(Set<String> captured) {
        Changes all = Changes.NEVER;
        for (Stage stage : stages) {
            all = all.and(stage.changes(captured));
        }
        return all;
    }

    /**
     * The same with every expression filled whose value cannot change in a run, so that it is worked out once.
     *
     * @throws Problem when one gives no value, the address changes from request to request, or a secret may not go there
     */
    public RequestRecipe settled(Filler filler, Set<String> captured) {
        Draft draft = new Draft(filler);
        List<Stage> made = new ArrayList<>();
        for (Stage stage : stages) {
            boolean address = stage instanceof AddressStage;
            if (address && stage.changes(captured) != Changes.NEVER) {
                throw Problem.input(
                        "The address changes from request to request",
                        stage.texts().get(0).source(),
                        "Under load it must be the same throughout.");
            }
            if (address) {
                stage.apply(draft);
                String fixed = draft.address().toString();
                made.add(new AddressStage(
                        new Braces(fixed, List.of(new Braces.Piece.Literal(fixed))), ((AddressStage) stage).via()));
            } else {
                made.add(stage.with(text -> Changes.settled(text, draft.filler(), captured)));
            }
        }
        return new RequestRecipe(made, wrapping);
    }

    /**
     * Says whether an address, perhaps with expressions, can be one.
     *
     * @throws Problem when it cannot
     */
    public static void checkAddress(String address) {
        Braces braces = Braces.parse(address);
        boolean literal = braces.pieces().stream().allMatch(p -> p instanceof Braces.Piece.Literal);
        if (literal) {
            new AddressStage(braces, Optional.empty()).apply(new Draft(Braces::literal));
        }
    }

    /** Where the requests of a settled recipe go. */
    public URI address() {
        Draft draft = new Draft(Braces::literal);
        stages.get(0).apply(draft);
        return draft.address();
    }

    /** Whether every expression that is left is of a kind. */
    public boolean expressions(Predicate<String> kind) {
        return stages.stream()
                .flatMap(s -> s.texts().stream())
                .flatMap(t -> t.pieces().stream())
                .allMatch(p -> !(p instanceof Braces.Piece.Expression e) || kind.test(e.xpath()));
    }

    /**
     * The request.
     *
     * @throws Problem when an expression gives no value, the address is none, or a secret may not go there
     */
    public CallRequest make(Filler filler) {
        return make(filler, CallRequest.USUAL_TIMEOUT);
    }

    /** As {@link #make(Filler)}, with another time to wait. */
    public CallRequest make(Filler filler, Duration timeout) {
        Draft draft = new Draft(filler);
        stages.forEach(s -> s.apply(draft));
        CallRequest request = new CallRequest(
                "POST",
                draft.address(),
                List.copyOf(draft.headers()),
                draft.body(),
                wrapping.delivery.framing(),
                timeout);
        CallRequest packed = wrapping.parts.isEmpty() && !wrapping.always
                ? request
                : Packaging.of(request, wrapping.parts, wrapping.always);
        return Compressing.of(packed, wrapping.delivery.compression());
    }
}

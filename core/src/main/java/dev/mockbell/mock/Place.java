package dev.mockbell.mock;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.Protocol;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapVersion;
import java.util.Collection;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import javax.xml.namespace.QName;

/**
 * What is called at one path: the operations of the ports there, the versions that they speak, and what the standards say to who asks
 * otherwise.
 */
final class Place {
    /** Header blocks of these are taken, whatever they ask for: what they say is for whoever stands before the service. */
    private static final Set<String> TAKEN = Set.of(
            "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-secext-1.0.xsd",
            "http://www.w3.org/2005/08/addressing",
            "http://schemas.xmlsoap.org/ws/2004/08/addressing");

    private final Set<SoapVersion> spoken = EnumSet.noneOf(SoapVersion.class);
    private final Map<QName, Target> byPayload = new HashMap<>();
    private final Map<String, Target> byAction = new HashMap<>();
    private final Set<Target> named = new HashSet<>();
    private final Set<QName> headers = new HashSet<>();
    private final Map<Target, Set<String>> actions = new HashMap<>();

    /** The version for who does not say one that is spoken here. */
    SoapVersion usual() {
        return spoken.iterator().next();
    }

    void add(Contract contract, Port port, Target target, Operation operation) {
        spoken.add(port.binding().protocol() == Protocol.SOAP12 ? SoapVersion.V12 : SoapVersion.V11);
        operation.input().map(i -> MessageOutline.of(contract, i)).ifPresent(outline -> {
            outline.firstName().ifPresent(name -> {
                byPayload.putIfAbsent(name, target);
                named.add(target);
            });
            outline.headers().stream().map(ElementDecl::name).forEach(headers::add);
        });
        operation.soapAction().filter(a -> !a.isEmpty()).ifPresent(a -> byAction.putIfAbsent(a, target));
        operation
                .soapAction()
                .ifPresent(a ->
                        actions.computeIfAbsent(target, t -> new HashSet<>()).add(a));
    }

    boolean speaks(String mediaType) {
        for (SoapVersion version : spoken) {
            if (version.mediaType().equals(mediaType)) {
                return true;
            }
        }
        return false;
    }

    /** The operation that takes a payload; null for none. */
    Target by(QName payload) {
        return byPayload.get(payload);
    }

    Collection<Target> targets() {
        return new HashSet<>(byPayload.values());
    }

    /** Whether the media type is one that is spoken here; in parts, that of the root is looked at once it is found. */
    Optional<Refusal> unfit(MockRequest request) {
        String type = request.type().name();
        if (request.type().inParts() || speaks(type)) {
            return Optional.empty();
        }
        // who asks in a version that is not spoken here is told so, and not of the media type
        for (SoapVersion version : SoapVersion.values()) {
            if (version.mediaType().equals(type)) {
                return Optional.empty();
            }
        }
        String taken = spoken.stream().map(SoapVersion::mediaType).collect(Collectors.joining(" or "));
        return Optional.of(Refusal.mediaType(
                usual(),
                (type.isEmpty() ? "The request has no Content-Type" : "The Content-Type is " + type) + "; it should be "
                        + taken + "."));
    }

    /** The operation that a request calls: by its payload, or by its action where nothing else can be meant. */
    Optional<Target> target(MockRequest request, RequestReading reading) {
        Target target = reading.payload().map(byPayload::get).orElse(null);
        if (target == null && !request.action().isEmpty()) {
            Target byName = byAction.get(request.action());
            boolean free = byName != null && (reading.payload().isEmpty() || !named.contains(byName));
            target = free ? byName : null;
        }
        return Optional.ofNullable(target);
    }

    /** What of an envelope breaks the rules of SOAP, and those that the mock has. */
    Optional<Refusal> refusal(MockRequest request, RequestReading reading, RequestRules rules) {
        SoapVersion said = "application/soap+xml".equals(request.type().name()) ? SoapVersion.V12 : usual();
        if (reading.envelope().isPresent() && reading.version().isEmpty()) {
            QName name = reading.envelope().get();
            String why = "The request is " + name + ", not a SOAP envelope.";
            SoapVersion told = spoken.contains(said) ? said : usual();
            boolean other = "Envelope".equals(name.getLocalPart()) || told == SoapVersion.V12;
            return Optional.of(
                    other ? Refusal.version(told, spoken, why) : Refusal.fault(told, SoapFault.Code.SENDER, why));
        }
        SoapVersion version = reading.version().orElse(said);
        if (reading.version().isPresent() && !spoken.contains(version)) {
            String versions = spoken.stream().map(SoapVersion::title).collect(Collectors.joining(" and "));
            String why = "The request is in " + version.title() + "; " + versions + " is spoken here.";
            // a node of SOAP 1.1 is told in what it can read, and so is one that speaks to a node of it (part 1,
            // appendix A)
            return Optional.of(Refusal.version(SoapVersion.V11, spoken, why));
        }
        if (!reading.flaw().isEmpty()) {
            return Optional.of(Refusal.fault(version, SoapFault.Code.SENDER, reading.flaw()));
        }
        if (rules.contentType()
                && reading.version().isPresent()
                && !version.mediaType().equals(request.type().name())) {
            return Optional.of(Refusal.mediaType(
                    version,
                    "The Content-Type is " + request.type().name() + " for an envelope of " + version.title()
                            + "; it should be " + version.mediaType() + "."));
        }
        List<QName> foreign = reading.mustUnderstand().stream()
                .filter(h -> !headers.contains(h) && !TAKEN.contains(h.getNamespaceURI()))
                .toList();
        return foreign.isEmpty() || !rules.mustUnderstand()
                ? Optional.empty()
                : Optional.of(Refusal.notUnderstood(version, foreign));
    }

    /** Whether a request names another action than the contract has for what it calls. */
    Optional<Refusal> otherAction(Target target, MockRequest request, SoapVersion version) {
        Set<String> due = actions.getOrDefault(target, Set.of());
        boolean said = version == SoapVersion.V11 || !request.action().isEmpty();
        if (!said || due.isEmpty() || due.contains(request.action())) {
            return Optional.empty();
        }
        String should = due.stream().map(a -> "“" + a + "”").collect(Collectors.joining(" or "));
        return Optional.of(Refusal.fault(
                version,
                SoapFault.Code.SENDER,
                "The action is “" + request.action() + "”; for " + target.key() + " it should be " + should + "."));
    }

    /** Why no operation is called. */
    Refusal noOperation(RequestReading reading) {
        String known =
                byPayload.keySet().stream().map(QName::getLocalPart).sorted().collect(Collectors.joining(", "));
        String why = reading.payload()
                .map(p -> "No operation of this contract takes " + p + ". It knows " + known + ".")
                .orElse("The body is empty and no SOAPAction names an operation. It knows " + known + ".");
        return Refusal.fault(reading.version().orElse(usual()), SoapFault.Code.SENDER, why);
    }
}

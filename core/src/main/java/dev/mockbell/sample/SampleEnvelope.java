package dev.mockbell.sample;

import dev.mockbell.contract.Binding;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.FaultDef;
import dev.mockbell.contract.MessageDef;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Protocol;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.xml.XmlText;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A sample as a whole envelope.
 *
 * @param fault the name of the fault, for the sample of one
 * @param payload the body's content alone, of a fault that of its detail
 * @param headers the header blocks, each alone
 * @param notes what of it is cut short, a guess or a placeholder, each a clause
 */
public record SampleEnvelope(
        Direction direction,
        Optional<String> fault,
        String text,
        String payload,
        List<String> headers,
        List<String> notes) {
    /** Who sends it. */
    public enum Direction {
        REQUEST,
        RESPONSE,
        FAULT
    }

    /** The samples of an operation of a SOAP binding: its input, its output and each of its faults. */
    public static List<SampleEnvelope> of(Contract contract, Binding binding, Operation operation, Detail detail) {
        SoapVersion version = binding.protocol() == Protocol.SOAP12 ? SoapVersion.V12 : SoapVersion.V11;
        List<SampleEnvelope> found = new ArrayList<>();
        operation.input().ifPresent(m -> found.add(message(contract, version, m, Direction.REQUEST, detail)));
        operation.output().ifPresent(m -> found.add(message(contract, version, m, Direction.RESPONSE, detail)));
        operation.faults().forEach(f -> found.add(fault(contract, version, f, detail)));
        return found;
    }

    /** The request of an operation alone; empty when it takes nothing. */
    public static Optional<String> request(Contract contract, Binding binding, Operation operation, Detail detail) {
        SoapVersion version = binding.protocol() == Protocol.SOAP12 ? SoapVersion.V12 : SoapVersion.V11;
        return operation
                .input()
                .map(m ->
                        message(contract, version, m, Direction.REQUEST, detail).text());
    }

    private static SampleEnvelope message(
            Contract contract, SoapVersion version, MessageDef message, Direction direction, Detail detail) {
        MessageOutline outline = MessageOutline.of(contract, message);
        Set<String> notes = new LinkedHashSet<>();
        List<String> headers = new ArrayList<>();
        outline.headers().forEach(h -> headers.add(element(outline, h, detail, notes)));
        String body =
                outline.root().map(r -> element(outline, r, detail, notes)).orElse("");
        return new SampleEnvelope(
                direction,
                Optional.empty(),
                Envelope.around(version, body, headers),
                body,
                List.copyOf(headers),
                List.copyOf(notes));
    }

    private static SampleEnvelope fault(Contract contract, SoapVersion version, FaultDef fault, Detail detail) {
        Set<String> notes = new LinkedHashSet<>();
        MessageOutline outline = MessageOutline.of(contract, fault);
        String inside =
                outline.root().map(r -> element(outline, r, detail, notes)).orElse("");
        String body = SoapFault.xml(version, SoapFault.Code.RECEIVER, SampleValues.words(fault.name()), inside);
        return new SampleEnvelope(
                Direction.FAULT,
                Optional.of(fault.name()),
                Envelope.around(version, body, List.of()),
                inside,
                List.of(),
                List.copyOf(notes));
    }

    private static String element(MessageOutline outline, ElementDecl root, Detail detail, Set<String> notes) {
        SampleBuilder builder = new SampleBuilder(outline, detail);
        String text = XmlText.laidOut(builder.build(root));
        notes.addAll(builder.notes());
        return text;
    }
}

package dev.mockbell.contract;

import dev.mockbell.xml.Place;
import java.util.List;
import java.util.Optional;

/**
 * An operation of a binding.
 *
 * @param key the name, made unique within the binding where it is overloaded: {@code Find} and {@code Find#2}
 * @param soapAction empty when the contract does not give one
 * @param needs what a policy demands, as short tags
 */
public record Operation(
        String name,
        String key,
        Optional<Style> style,
        Optional<Use> use,
        Optional<String> soapAction,
        Pattern pattern,
        List<String> needs,
        Optional<MessageDef> input,
        Optional<MessageDef> output,
        List<FaultDef> faults,
        String documentation,
        Place place) {
    /** The shape of the body (WSDL 1.1 §3.3). */
    public enum Style {
        DOCUMENT,
        RPC
    }

    /** Whether the body follows the schema to the letter or by encoding rules. */
    public enum Use {
        LITERAL,
        ENCODED
    }

    /** Who speaks first, and whether an answer comes (WSDL 1.1 §2.4). */
    public enum Pattern {
        REQUEST_RESPONSE("request-response"),
        ONE_WAY("one-way"),
        SOLICIT_RESPONSE("solicit-response"),
        NOTIFICATION("notification");

        private final String code;

        Pattern(String code) {
            this.code = code;
        }

        /** As in JSON. */
        public String code() {
            return code;
        }
    }

    /** The same operation with more needs. */
    Operation needing(List<String> more) {
        return new Operation(
                name,
                key,
                style,
                use,
                soapAction,
                pattern,
                Policies.ordered(needs, more),
                input,
                output,
                faults,
                documentation,
                place);
    }

    /** Whether a client can start it. */
    public boolean callable() {
        return pattern == Pattern.REQUEST_RESPONSE || pattern == Pattern.ONE_WAY;
    }
}

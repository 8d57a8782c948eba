package dev.mockbell.contract;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;

class PoliciesTest {
    private static final String PLAIN = Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:int'/>"));
    private static final String SPACES =
            "xmlns:wsp='http://www.w3.org/ns/ws-policy' xmlns:sp='http://docs.oasis-open.org/ws-sx/ws-securitypolicy/200702' "
                    + "xmlns:wsam='http://www.w3.org/2007/05/addressing/metadata' "
                    + "xmlns:wsu='http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-utility-1.0.xsd'";

    private static Contract with(String atEnd, String inBinding, String inOperation) {
        String text = PLAIN.replace("<types>", "<types " + SPACES + ">")
                .replace("</definitions>", atEnd + "</definitions>")
                .replace("<soap:binding transport", inBinding + "<soap:binding transport")
                .replace("<soap:operation soapAction=\"do\"/>", "<soap:operation soapAction=\"do\"/>" + inOperation)
                .replace("targetNamespace=\"urn:t:service\"", "targetNamespace=\"urn:t:service\" " + SPACES);
        return Contracts.of("a.wsdl", text);
    }

    private static List<String> needs(Contract contract) {
        return contract.ports().get(0).binding().operations().get(0).needs();
    }

    @Test
    void demandsOfATransportBindingByReference() {
        assertThat(needs(with("""
                        <wsp:Policy wsu:Id="P"><wsp:ExactlyOne><wsp:All>
                          <sp:TransportBinding><wsp:Policy><sp:TransportToken><wsp:Policy><sp:HttpsToken/></wsp:Policy></sp:TransportToken>
                            <sp:IncludeTimestamp/></wsp:Policy></sp:TransportBinding>
                          <sp:SignedSupportingTokens><wsp:Policy><sp:UsernameToken/></wsp:Policy></sp:SignedSupportingTokens>
                        </wsp:All></wsp:ExactlyOne></wsp:Policy>""", "<wsp:PolicyReference URI='#P'/>", "")))
                .containsExactly("UsernameToken", "Timestamp", "TLS");
    }

    @Test
    void policiesInLineAddUpFromBindingToOperation() {
        assertThat(
                        needs(
                                with(
                                        "",
                                        "<wsp:Policy><wsam:Addressing/></wsp:Policy>",
                                        "<wsp:Policy><sp:EncryptedParts><sp:Body/></sp:EncryptedParts><sp:SignedParts><sp:Body/></sp:SignedParts></wsp:Policy>")))
                .containsExactly("signature", "encryption", "addressing");
    }

    @Test
    void whatIsOptionalOrOneOfSeveralIsNotDemanded() {
        assertThat(needs(with(
                        "",
                        "<wsp:Policy><wsam:Addressing wsp:Optional='true'/><wsp:ExactlyOne><wsp:All><sp:UsernameToken/><sp:IncludeTimestamp/></wsp:All>"
                                + "<wsp:All><sp:X509Token/><sp:IncludeTimestamp/></wsp:All></wsp:ExactlyOne></wsp:Policy>",
                        "")))
                .containsExactly("Timestamp");
    }

    @Test
    void aPolicyThatIsNotThereIsAFinding() {
        Contract contract = with("", "<wsp:PolicyReference URI='#gone'/>", "");
        assertThat(needs(contract)).isEmpty();
        assertThat(contract.findings()).extracting(Finding::rule).contains("unresolved-policy");
    }

    @Test
    void policiesThatReferToEachOtherEnd() {
        assertThat(needs(with(
                        "<wsp:Policy wsu:Id='A'><wsp:PolicyReference URI='#B'/><wsam:Addressing/></wsp:Policy>"
                                + "<wsp:Policy wsu:Id='B'><wsp:PolicyReference URI='#A'/><sp:UsernameToken/></wsp:Policy>",
                        "<wsp:PolicyReference URI='#A'/>",
                        "")))
                .containsExactly("UsernameToken", "addressing");
    }

    @Test
    void theAttributeFormAndOlderVersionsCountToo() {
        assertThat(needs(with(
                        "<wsp:Policy wsu:Id='M'><m:OptimizedMimeSerialization xmlns:m='urn:m'/></wsp:Policy>",
                        "<old:PolicyReference xmlns:old='http://schemas.xmlsoap.org/ws/2004/09/policy' URI='#M'/>",
                        "")))
                .containsExactly("MTOM");
    }

    @Test
    void anAddressingExtensionIsDemandedOnlyWhenRequired() {
        String element =
                "<wsaw:UsingAddressing xmlns:wsaw='http://www.w3.org/2006/05/addressing/wsdl' xmlns:wsdl='http://schemas.xmlsoap.org/wsdl/'%s/>";
        assertThat(needs(with("", element.formatted(""), ""))).isEmpty();
        assertThat(needs(with("", element.formatted(" wsdl:required='true'"), "")))
                .containsExactly("addressing");
    }

    @Test
    void unknownExtensionsAreKeptAndRequiredOnesWarnedOf() {
        Contract contract = with(
                "",
                "<x:cache xmlns:x='urn:x' xmlns:wsdl='http://schemas.xmlsoap.org/wsdl/' wsdl:required='true'/>",
                "");
        assertThat(contract.extensions()).singleElement().satisfies(e -> {
            assertThat(e.name().getLocalPart()).isEqualTo("cache");
            assertThat(e.on()).isEqualTo("binding");
            assertThat(e.required()).isTrue();
        });
        assertThat(contract.findings()).extracting(Finding::rule).contains("R2026");
    }
}

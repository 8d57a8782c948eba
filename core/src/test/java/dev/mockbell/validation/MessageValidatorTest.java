package dev.mockbell.validation;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.suite.Stays;
import dev.mockbell.validation.MessageValidator.Breach;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MessageValidatorTest {
    private final Contract stay = Contracts.stay();
    private final MessageOutline request = MessageOutline.of(
            stay, stay.operation("Book", null).orElseThrow().operation().input().orElseThrow());

    private List<Breach> breaches(String payload) {
        return new MessageValidator(stay.schemas()).validate(request, Xml.parse(payload, "m", XmlLimits.MESSAGE));
    }

    @Test
    void aGoodMessageHasNoBreaches() {
        assertThat(breaches(Stays.BODY)).isEmpty();
    }

    @Test
    void aBreachHasItsPathAndSaysItOnce() {
        assertThat(breaches(Stays.BODY.replace(">34<", ">old<")))
                .singleElement()
                .satisfies(b -> {
                    assertThat(b.path()).isEqualTo("/Book/guest/age");
                    assertThat(b.text()).contains("old").doesNotStartWith("cvc-");
                });
    }

    @Test
    void anotherRootIsNamedWithTheOneExpected() {
        assertThat(breaches("<Other xmlns='urn:x'/>"))
                .singleElement()
                .satisfies(b -> assertThat(b.text()).contains("{urn:x}Other").contains("{urn:northfell:stay}Book"));
    }

    @Test
    void anEmptyBodyIsToldOf() {
        assertThat(new MessageValidator(stay.schemas()).validate(request, Xml.newDocument()))
                .singleElement()
                .satisfies(b -> assertThat(b.text()).contains("Book is expected"));
    }

    @Test
    void theDetailOfAFaultIsHeldAgainstItsSchema() {
        MessageValidator validator = new MessageValidator(stay.schemas());
        String good = SoapFault.xml(
                SoapVersion.V12,
                SoapFault.Code.RECEIVER,
                "x",
                "<s:Full xmlns:s='urn:northfell:stay'><s:left>0</s:left></s:Full>");
        String bad = good.replace(">0<", ">none<");
        for (String fault : List.of(good, bad)) {
            SoapMessage message = SoapMessage.parse(
                    Envelope.around(SoapVersion.V12, fault, List.of()).getBytes(StandardCharsets.UTF_8), "m");
            assertThat(validator.validate(request, message)).hasSize(fault.equals(good) ? 0 : 1);
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "<w:Do xmlns:w='urn:wrap'><metres>5</metres></w:Do>|0|",
                "<w:Do xmlns:w='urn:wrap'><metres>five</metres></w:Do>|1|five",
                "<w:Do xmlns:w='urn:wrap'/>|1|metres is missing",
                "<w:Do xmlns:w='urn:wrap'><metres>5</metres><feet>1</feet></w:Do>|1|feet is not in the contract",
                "<w:Do xmlns:w='urn:other'><metres>5</metres></w:Do>|1|is expected"
            })
    void rpcPartsAreHeldAgainstTheirTypes(String payload, int count, String words) {
        String wsdl = Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:int'/>"))
                .replace("<part name=\"p\" element=\"t:Root\"/>", "<part name=\"metres\" type=\"xs:int\"/>")
                .replace("<soap:binding transport", "<soap:binding style=\"rpc\" transport")
                .replace("<soap:body use=\"literal\"/>", "<soap:body use=\"literal\" namespace=\"urn:wrap\"/>");
        Contract contract = Contracts.of("a.wsdl", wsdl);
        MessageOutline outline = MessageOutline.of(
                contract,
                contract.operation("Do", null).orElseThrow().operation().input().orElseThrow());
        List<Breach> found =
                new MessageValidator(contract.schemas()).validate(outline, Xml.parse(payload, "m", XmlLimits.MESSAGE));
        assertThat(found).as(found.toString()).hasSize(count);
        if (count > 0) {
            assertThat(found.get(0).text()).contains(words);
        }
    }
}

package dev.mockbell.sheet;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.Contracts;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.suite.Case;
import org.junit.jupiter.api.Test;

/** Header parts that the contract names stand in the request as its body does. */
class HeaderBlocksTest {
    private static final String SECURITY =
            "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-secext-1.0.xsd";

    private final Contract contract = Contracts.of(
            "a.wsdl",
            Contracts.wsdl(
                            Contracts.schema(
                                    "<xs:import namespace='" + SECURITY
                                            + "'/><xs:element name='Root' type='xs:int'/><xs:element name='Trace'><xs:complexType>"
                                            + "<xs:sequence><xs:element name='id' type='xs:token'/><xs:element name='hop' type='xs:int' minOccurs='0'/></xs:sequence></xs:complexType></xs:element>"))
                    .replace(
                            "</message>",
                            "</message><message name='H'><part name='t' element='t:Trace'/><part name='s' xmlns:s='"
                                    + SECURITY + "' element='s:Security'/></message>")
                    .replace(
                            "<input><soap:body use=\"literal\"/>",
                            "<input><soap:header message='tns:H' part='t' use='literal'/><soap:header message='tns:H' part='s' use='literal'/><soap:body use='literal'/>"));
    private final BoundOperation bound = contract.operation("Do", null).orElseThrow();
    private final MessageOutline outline = MessageOutline.ofRequest(contract, bound.operation());

    @Test
    void aSampleHasTheBlocksOfItsBindingButSecurity() {
        Case sample = Case.ofSample("s", "S", "c", contract, bound, Detail.REQUIRED);
        assertThat(sample.soapHeaders())
                .startsWith("<t:Trace")
                .contains("<t:id>")
                .doesNotContain("Security");
        assertThat(Case.ofSample("s", "S", "c", contract, bound, Detail.FULL).soapHeaders())
                .contains("<t:hop>");
    }

    @Test
    void blocksAreTakenApartPutInAndTakenOut() {
        HeaderBlocks none = HeaderBlocks.of(outline, " ");
        ElementDecl trace = none.declared("Trace").orElseThrow();
        assertThat(none.block(trace)).isEmpty();
        HeaderBlocks one = none.with(trace);
        assertThat(one.block(trace)).hasValueSatisfying(b -> assertThat(b).contains("<t:id>"));
        HeaderBlocks both = HeaderBlocks.of(outline, "<x:Own xmlns:x='urn:x'>{$a}</x:Own>" + one.text());
        assertThat(both.blocks()).hasSize(2);
        HeaderBlocks changed = both.with(trace, "<t:Trace xmlns:t='urn:t'><t:id>b</t:id></t:Trace>");
        assertThat(changed.text()).contains("{$a}").contains("<t:id>b</t:id>");
        assertThat(changed.without(trace).blocks()).hasSize(1);
        assertThat(none.names()).isEqualTo("Trace, Security");
        assertThatThrownBy(() -> HeaderBlocks.of(outline, "<x>")).isInstanceOf(Problem.class);
    }

    @Test
    void aBlockHasASheetOfItsOwn() {
        HeaderBlocks blocks = HeaderBlocks.of(outline, "");
        ElementDecl trace = blocks.declared("Trace").orElseThrow();
        Sheet sheet = Sheet.open(
                blocks.outlineOf(trace), blocks.with(trace).block(trace).orElseThrow());
        sheet.setValue(sheet.ensure("/Trace/hop").orElseThrow(), "3");
        assertThat(sheet.text()).contains("<t:hop>3</t:hop>");
    }
}

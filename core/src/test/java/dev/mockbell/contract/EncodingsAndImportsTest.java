package dev.mockbell.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import java.io.ByteArrayOutputStream;
import java.net.URI;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import javax.xml.namespace.QName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Documents as they come: in any charset, from any corner of a folder, by any kind of reference. */
class EncodingsAndImportsTest {
    @TempDir
    Path folder;

    private static final String ROOT = Contracts.schema("<xs:element name='Root' type='xs:int'/>");

    private static Contract read(Path wsdl) {
        return new ContractReader(DocumentFetcher.files(1 << 20))
                .read(wsdl.toString(), Progress.NONE, new StopSignal());
    }

    @ParameterizedTest
    @CsvSource({
        "UTF-8, UTF-8",
        "UTF-16, UTF-16",
        "ISO-8859-1, ISO-8859-1",
        "windows-1252, windows-1252",
        "UTF-16LE, UTF-16"
    })
    void everyCharsetOfTheDeclarationIsRead(String charset, String declared) throws Exception {
        String text = "<?xml version='1.0' encoding='" + declared + "'?>"
                + Contracts.wsdl(ROOT).replace("name=\"Do\"", "name=\"Høyde\"");
        byte[] bytes = text.getBytes(Charset.forName(charset));
        if (charset.equals("UTF-16LE")) {
            byte[] marked = new byte[bytes.length + 2];
            marked[0] = (byte) 0xFF;
            marked[1] = (byte) 0xFE;
            System.arraycopy(bytes, 0, marked, 2, bytes.length);
            bytes = marked;
        }
        Contract contract = read(Files.write(folder.resolve("a.wsdl"), bytes));
        assertThat(contract.operations().keySet()).containsExactly("Høyde");
        assertThat(contract.documents().get(0).text()).contains("Høyde");
    }

    @Test
    void aByteOrderMarkIsNoTrouble() throws Exception {
        Path file = Files.write(
                folder.resolve("a.wsdl"), ("\uFEFF" + Contracts.wsdl(ROOT)).getBytes(StandardCharsets.UTF_8));
        assertThat(read(file).operations()).containsKey("Do");
        assertThat(read(file).documents().get(0).text()).startsWith("<definitions");
    }

    @Test
    void importsLeadThroughFoldersUpAndDownAndThroughOddNames() throws Exception {
        Path wsdls = Files.createDirectories(folder.resolve("wsdl"));
        Path xsds = Files.createDirectories(folder.resolve("skjema og typer"));
        Files.writeString(xsds.resolve("høyde.xsd"), ROOT);
        String types =
                "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema'><xs:import namespace='urn:t' schemaLocation='../skjema og typer/høyde.xsd'/></xs:schema>";
        Contract contract = read(Files.writeString(wsdls.resolve("a.wsdl"), Contracts.wsdl(types)));
        assertThat(contract.findings()).isEmpty();
        assertThat(contract.schemas().element(new QName("urn:t", "Root"))).isPresent();
    }

    @Test
    void aWsdlMayImportTheAbstractHalfFromAnother() {
        String all = Contracts.wsdl(ROOT);
        int split = all.indexOf("<binding");
        String head = all.substring(0, all.indexOf("<types>"));
        String abstractHalf = all.substring(0, split) + "</definitions>";
        String concrete =
                head + "<import namespace=\"urn:t:service\" location=\"abstract.wsdl\"/>" + all.substring(split);
        Contract contract = Contracts.of("concrete.wsdl", concrete, "abstract.wsdl", abstractHalf);
        assertThat(contract.findings()).isEmpty();
        assertThat(contract.documents()).hasSize(2);
        assertThat(contract.operations()).containsKey("Do");
    }

    @Test
    void wsdlsThatImportEachOtherAreReadOnce() {
        String all = Contracts.wsdl(ROOT);
        String a = all.replace("<types>", "<import namespace='urn:t:service' location='b.wsdl'/><types>");
        String b =
                "<definitions xmlns='http://schemas.xmlsoap.org/wsdl/' targetNamespace='urn:t:service'><import namespace='urn:t:service' location='a.wsdl'/></definitions>";
        assertThat(Contracts.of("a.wsdl", a, "b.wsdl", b).documents()).hasSize(2);
    }

    @Test
    void aRedefinedTypeIsTheRedefinedOne() {
        String base =
                "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' targetNamespace='urn:t'><xs:simpleType name='T'><xs:restriction base='xs:string'/></xs:simpleType></xs:schema>";
        String types = Contracts.schema(
                "<xs:redefine schemaLocation='base.xsd'><xs:simpleType name='T'><xs:restriction base='t:T'><xs:maxLength value='3'/></xs:restriction></xs:simpleType></xs:redefine>"
                        + "<xs:element name='Root' type='t:T'/>");
        Contract contract = Contracts.of("a.wsdl", Contracts.wsdl(types), "base.xsd", base);
        assertThat(contract.findings()).isEmpty();
        assertThat(contract.schemas()
                        .element(new QName("urn:t", "Root"))
                        .orElseThrow()
                        .type()
                        .simple()
                        .orElseThrow()
                        .maxLength())
                .contains(3);
    }

    @Test
    void aSchemaWithoutNamespaceServesEveryIncluder() {
        String common =
                "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema'><xs:simpleType name='Code'><xs:restriction base='xs:string'/></xs:simpleType></xs:schema>";
        String one =
                Contracts.schema("<xs:include schemaLocation='common.xsd'/><xs:element name='Root' type='t:Code'/>");
        String two =
                "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' xmlns:u='urn:u' targetNamespace='urn:u'><xs:include schemaLocation='common.xsd'/><xs:element name='Other' type='u:Code'/></xs:schema>";
        Contract contract = Contracts.of("a.wsdl", Contracts.wsdl(one + two), "common.xsd", common);
        assertThat(contract.findings()).isEmpty();
        assertThat(contract.schemas().type(new QName("urn:t", "Code"))).isPresent();
        assertThat(contract.schemas().type(new QName("urn:u", "Code"))).isPresent();
        assertThat(contract.documents()).hasSize(2);
    }

    @Test
    void anImportThatLeadsToAWebPageIsAFinding() {
        String types =
                Contracts.schema("<xs:include schemaLocation='page.xsd'/><xs:element name='Root' type='xs:int'/>");
        Contract contract = Contracts.of("a.wsdl", Contracts.wsdl(types), "page.xsd", "<html/>");
        assertThat(contract.findings()).extracting(Finding::rule).containsExactly("unexpected-document");
        assertThat(contract.findings().get(0).text()).contains("<html>");
    }

    @Test
    void progressTellsEachDocument() {
        List<String> told = new ArrayList<>();
        DocumentFetcher fetcher = (uri, stop) -> new DocumentFetcher.Fetched(
                uri,
                (uri.toString().endsWith("x.xsd")
                                ? ROOT
                                : Contracts.wsdl(
                                        "<xs:schema><xs:import namespace='urn:t' schemaLocation='x.xsd'/></xs:schema>"))
                        .getBytes(StandardCharsets.UTF_8),
                "");
        new ContractReader(fetcher).read("m", URI.create("mem:/m"), told::add, new StopSignal());
        assertThat(told)
                .containsExactly("reading mem:/m", "reading mem:/x.xsd", "compiling 2 schemas", "judging the contract");
    }

    @Test
    void anAttributeThatMayNotStandThereIsNoErrorSinceAllIsSampledStill() {
        Contract contract = Contracts.of("a.wsdl", """
                <definitions targetNamespace="urn:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:xs="http://www.w3.org/2001/XMLSchema"><types>
                  <xs:schema targetNamespace="urn:t"><xs:element name="b" odd="1" type="xs:int"/></xs:schema></types></definitions>""");
        assertThat(contract.schemas().element(new QName("urn:t", "b"))).isPresent();
        assertThat(contract.findings().stream().filter(f -> f.text().contains("odd")))
                .isNotEmpty()
                .allMatch(f -> f.severity() == Finding.Severity.WARNING);
    }

    @Test
    void anEntityThatStandsElsewhereIsToldOfAndNotRead() throws Exception {
        Files.writeString(folder.resolve("types.xml"), "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema'/>");
        Path wsdl = Files.writeString(folder.resolve("e.wsdl"), """
                <!DOCTYPE definitions [<!ENTITY types SYSTEM "types.xml"><!ENTITY ns "urn:s"><!ENTITY idle SYSTEM "/etc/passwd">]>
                <definitions targetNamespace="&ns;" xmlns="http://schemas.xmlsoap.org/wsdl/">
                <types>&types;</types></definitions>""");
        Contract contract = read(wsdl);
        assertThat(contract.findings().stream().filter(f -> f.rule().equals("not-followed")))
                .singleElement()
                .satisfies(f -> {
                    assertThat(f.text()).startsWith("The entity types stands elsewhere");
                    assertThat(f.place().line()).isEqualTo(3);
                });
        assertThat(contract.schemas().prefixes()).isEmpty();
    }

    @Test
    void packedFilesAreCalledWhatTheyAre() throws Exception {
        ByteArrayOutputStream gzip = new ByteArrayOutputStream();
        try (GZIPOutputStream out = new GZIPOutputStream(gzip)) {
            out.write("<definitions/>".getBytes(StandardCharsets.UTF_8));
        }
        Path packed = Files.write(folder.resolve("a.wsdl.gz"), gzip.toByteArray());
        assertThatThrownBy(() -> read(packed)).hasMessageContaining("This is a gzip file, not a WSDL");
        ByteArrayOutputStream zip = new ByteArrayOutputStream();
        try (ZipOutputStream out = new ZipOutputStream(zip)) {
            out.putNextEntry(new ZipEntry("a.wsdl"));
        }
        Path archive = Files.write(folder.resolve("a.zip"), zip.toByteArray());
        assertThatThrownBy(() -> read(archive)).hasMessageContaining("This is a zip archive, not a WSDL");
    }

    @Test
    void noNameThatDocumentsHaveOnlyInHereIsTold() {
        Contract contract = Contracts.of("a.wsdl", """
                <definitions targetNamespace="urn:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:xs="http://www.w3.org/2001/XMLSchema"><types>
                  <xs:schema targetNamespace="urn:t"><xs:element name="a" type="xs:nope"/><xs:element name="b" odd="1"/></xs:schema></types></definitions>""");
        assertThat(contract.findings())
                .anyMatch(f -> f.text().contains("xs:nope"))
                .allSatisfy(
                        f -> assertThat(f.text()).doesNotContain("mockbell:").doesNotEndWith("."));
    }

    @Test
    void aFolderAndABinaryFileAreNamed() throws Exception {
        assertThatThrownBy(() -> read(folder))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("This is a folder, not a WSDL");
        Path binary = Files.write(folder.resolve("b.wsdl"), new byte[] {1, 2, 3, 4, 5, 6});
        assertThatThrownBy(() -> read(binary)).isInstanceOf(Problem.class).hasMessageContaining("binary data");
    }
}

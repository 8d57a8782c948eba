/** The messages of the hut booking service as its schema defines them, bound with JAXB. */
@jakarta.xml.bind.annotation.XmlSchema(
        namespace = "urn:northfell:hut-booking",
        elementFormDefault = jakarta.xml.bind.annotation.XmlNsForm.QUALIFIED)
package dev.mockbell.demo.huts;

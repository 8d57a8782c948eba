/** The messages of the trail conditions service as its schema defines them, bound with JAXB. */
@jakarta.xml.bind.annotation.XmlSchema(
        namespace = "urn:northfell:trail-conditions",
        elementFormDefault = jakarta.xml.bind.annotation.XmlNsForm.QUALIFIED)
package dev.mockbell.demo.trails;
